import { type ReactNode, useEffect, useRef, useState } from 'react';
import { bindingsOf } from '../model/bindings.js';
import { type Lab, sentenceOf } from '../model/lab.js';
import { Live } from '../model/live.js';
import { useModel } from './use.js';

/** Where one plays, and what is done with what was played. */
export function LabPart({ lab, children }: { lab: Lab; children?: ReactNode }) {
  const model = useModel();
  const [keeps, setKeeps] = useState(false);
  const { live, playing, tick, ticks, made } = model;
  const isBack = !playing && (tick < ticks.last || made !== null);
  return (
    <div className="lab" role="toolbar" aria-label="Lab">
      <label>
        <span className="hidden">Where to play</span>
        <select value={lab.ground} aria-label="Where to play" onChange={(event) => lab.enter(event.target.value)}>
          {lab.choices.map(({ id, text }) => (
            <option key={id} value={id}>
              {text}
            </option>
          ))}
        </select>
      </label>
      <button type="button" onClick={() => lab.enter(lab.ground)}>
        from the start
      </button>
      <button type="button" disabled={!isBack} onClick={() => model.continueHere()}>
        play on from here
      </button>
      <button
        type="button"
        onClick={() => {
          model.pause();
          setKeeps(true);
        }}
      >
        keep as scenario…
      </button>
      {children}
      <span className="quiet">
        {playing ? 'Escape pauses, and then all keys are the viewer’s' : live ? 'paused' : ''}
      </span>
      {lab.conflict && (
        <span className="conflict" role="alert">
          {lab.conflict.file} has changed on the disk, and here.{' '}
          <button type="button" onClick={() => lab.settle('mine')}>
            write mine over it
          </button>{' '}
          <button type="button" onClick={() => lab.settle('theirs')}>
            take the one on the disk
          </button>
        </span>
      )}
      {keeps && <KeepDialog lab={lab} close={() => setKeeps(false)} />}
    </div>
  );
}

function KeepDialog({ lab, close }: { lab: Lab; close: () => void }) {
  const { model } = lab;
  const dialog = useRef<HTMLDialogElement>(null);
  const first = Math.max((model.made ?? model.recording).first + 1, Math.floor(model.from), 0);
  const last = Math.min(model.ticks.last, Math.floor(model.to));
  const folder =
    lab.project.scenarios[0]?.file.split('/').slice(0, -1).join('/') ??
    lab.project.file.split('/').slice(0, -1).join('/');
  const [from, setFrom] = useState(first);
  const [to, setTo] = useState(last);
  const [sentence, setSentence] = useState('');
  const [file, setFile] = useState(`${folder === '' ? '' : `${folder}/`}played.yaml`);
  const [fault, setFault] = useState('');
  useEffect(() => dialog.current?.showModal(), []);
  let text = '';
  let why = '';
  try {
    text = lab.scenario(from, to, sentence, file);
  } catch (error) {
    why = sentenceOf(error);
  }
  return (
    <dialog ref={dialog} onClose={close} className="keep" aria-label="Keep as scenario">
      <h2>Keep as scenario</h2>
      <p className="fields">
        <label>
          from tick <input type="number" value={from} onChange={(event) => setFrom(Number(event.target.value))} />
        </label>
        <label>
          to tick <input type="number" value={to} onChange={(event) => setTo(Number(event.target.value))} />
        </label>
        <label className="wide">
          what it shows{' '}
          <input
            value={sentence}
            placeholder="what happens first"
            onChange={(event) => setSentence(event.target.value)}
          />
        </label>
        <label className="wide">
          file <input value={file} onChange={(event) => setFile(event.target.value)} />
        </label>
      </p>
      {why === '' ? <pre>{text}</pre> : <p role="alert">{why}</p>}
      {fault !== '' && <p role="alert">{fault}</p>}
      <button
        type="button"
        disabled={why !== ''}
        onClick={async () => {
          const wrong = await lab.keep(file, text);
          if (wrong === undefined) close();
          else setFault(wrong);
        }}
      >
        Write it
      </button>{' '}
      <button type="button" onClick={close}>
        Cancel
      </button>
    </dialog>
  );
}

/** What each input is bound to, lit while it is held. */
export function KeysPart() {
  const model = useModel();
  const one = model.now;
  if (!one || !(model.live instanceof Live)) return null;
  return (
    <ul className="keys" aria-label="Inputs">
      {bindingsOf(one).map(({ input, keys, held }) => (
        <li key={input} className={held ? 'held' : ''}>
          <kbd>{keys}</kbd> {input}
        </li>
      ))}
    </ul>
  );
}
