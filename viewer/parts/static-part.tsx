import { useEffect, useState } from 'react';
import { App } from '../app.js';
import type { BrowserDisk } from '../model/browser-disk.js';
import { sentenceOf } from '../model/grounds.js';
import { Lab } from '../model/lab.js';

/** What the address asks for: `#file=…&ground=…`. */
function asked(): { file: string; ground: string | null } {
  const words = new URLSearchParams(location.hash.slice(1));
  return { file: words.get('file') ?? '', ground: words.get('ground') };
}

/** The lab in a page without a server: it plays what is in it, or a folder that somebody opens. */
export function StaticPart({ first }: { first: BrowserDisk }) {
  const [disk, setDisk] = useState(() => first.choosing(asked().file));
  const [lab, setLab] = useState<Lab | null>(null);
  const [fault, setFault] = useState('');
  useEffect(() => {
    let isOver = false;
    let own: Lab | null = null;
    setFault('');
    Lab.open(disk).then(
      (opened) => {
        own = opened;
        if (isOver) {
          opened.close();
          return;
        }
        const { file, ground } = asked();
        if (ground !== null && file === disk.chosen) opened.enter({ ground });
        setLab(opened);
      },
      (error) => setFault(sentenceOf(error)),
    );
    return () => {
      isOver = true;
      own?.close();
    };
  }, [disk]);
  // A link to another example, in a page that is open already.
  useEffect(() => {
    const follow = () => setDisk(first.choosing(asked().file));
    window.addEventListener('hashchange', follow);
    return () => window.removeEventListener('hashchange', follow);
  }, [first]);
  const open = () =>
    disk.open().then(setDisk, (error) => {
      // Whoever chose no folder stays where they are.
      if ((error as DOMException).name !== 'AbortError') setFault(sentenceOf(error));
    });
  const bar = (
    <span className="files">
      <select
        aria-label="Moveset"
        value={disk.chosen}
        onChange={({ target }) => {
          target.blur();
          setDisk(disk.choosing(target.value));
        }}
      >
        {disk.movesets.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      <button type="button" onClick={open}>
        open a folder…
      </button>
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
