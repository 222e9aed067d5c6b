import { useEffect, useState } from 'react';
import { App } from '../app.js';
import type { BrowserDisk } from '../model/browser-disk.js';
import { sentenceOf } from '../model/grounds.js';
import { Lab } from '../model/lab.js';

/** The lab in a page without a server: it plays what is in it, or a folder that somebody opens. */
export function StaticPart({ first }: { first: BrowserDisk }) {
  const [disk, setDisk] = useState(first);
  const [movesets, setMovesets] = useState<readonly string[]>([]);
  const [lab, setLab] = useState<Lab | null>(null);
  const [fault, setFault] = useState('');
  const [file, setFile] = useState('');
  // biome-ignore lint/correctness/useExhaustiveDependencies: another file of the same disk is opened anew
  useEffect(() => {
    let isOver = false;
    setFault('');
    Lab.open(disk).then(
      (opened) => !isOver && setLab(opened),
      (error) => setFault(sentenceOf(error)),
    );
    return () => {
      isOver = true;
    };
  }, [disk, file]);
  const open = () =>
    disk.open().then(
      (opened) => {
        setMovesets(opened.movesets);
        setDisk(opened.disk);
      },
      (error) => setFault(sentenceOf(error)),
    );
  const bar = (
    <span className="files">
      <button type="button" onClick={open}>
        open a folder…
      </button>
      {movesets.length > 1 && (
        <select
          aria-label="Moveset"
          onChange={(event) => {
            disk.choose(event.target.value);
            setFile(event.target.value);
          }}
        >
          {movesets.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      )}
      {fault !== '' && <span role="alert">{fault}</span>}
    </span>
  );
  if (!lab) return bar;
  return (
    <App key={lab.model.serial} model={lab.model} lab={lab}>
      {bar}
    </App>
  );
}
