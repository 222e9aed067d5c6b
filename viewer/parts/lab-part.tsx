import { type ChangeEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import type { Seen } from '../../src/recording/moment.js';
import { bindingsOf } from '../model/bindings.js';
import { sentenceOf } from '../model/grounds.js';
import type { Lab, Physics } from '../model/lab.js';
import { useModel } from './use.js';

/** Where one plays, and what is done with what was played. */
export function LabPart({ lab, children }: { lab: Lab; children?: ReactNode }) {
  const model = useModel();
  const [keeps, setKeeps] = useState(false);
  const { live, playing, tick, ticks, made } = model;
  const { ground } = lab.setting;
  const isBack = !playing && (tick < ticks.last || made !== null);
  return (
    <div className="lab" role="toolbar" aria-label="Lab">
      <label>
        <span className="hidden">Where to play</span>
        <select value={ground} aria-label="Where to play" onChange={(event) => lab.enter({ ground: chosenIn(event) })}>
          {lab.choices.map(({ id, text }) => (
            <option key={id} value={id}>
              {text}
            </option>
          ))}
        </select>
      </label>
      {lab.members.length > 1 && (
        <label>
          as{' '}
          <select
            value={live?.player}
            aria-label="Who is played"
            onChange={(event) => lab.enter({ as: chosenIn(event) })}
          >
            {lab.members.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
      )}
      {lab.isOwn && <GuestsPart lab={lab} />}
      {lab.project.rapier === true && (
        <label>
          in{' '}
          <select
            value={lab.physics}
            aria-label="What moves bodies"
            onChange={(event) => lab.enter({}, chosenIn(event) as Physics)}
          >
            <option value="loggia">Loggia’s world</option>
            <option value="rapier">a room of Rapier</option>
          </select>
        </label>
      )}
      <button type="button" onClick={() => lab.enter()}>
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
      {playing && <span className="quiet">Escape pauses, and then all keys are the viewer’s</span>}
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

/** What was chosen; keys are for the game again. */
function chosenIn({ target }: ChangeEvent<HTMLSelectElement>): string {
  target.blur();
  return target.value;
}

/** Who is there besides in a world without a file, and who else can be invited. */
function GuestsPart({ lab }: { lab: Lab }) {
  const { guests } = lab.setting;
  return (
    <>
      <select
        value=""
        className="short"
        aria-label="Invite somebody"
        onChange={(event) => {
          const chosen = chosenIn(event);
          const found = lab.guests.find(({ id }) => id === chosen);
          if (found) lab.enter({ guests: [...guests, found] });
        }}
      >
        <option value="">{guests.length === 0 ? 'with nobody else' : 'and…'}</option>
        {lab.guests.map(({ id, text }) => (
          <option key={id} value={id}>
            {text}
          </option>
        ))}
      </select>
      {guests.map((guest, i) => (
        <button
          // biome-ignore lint/suspicious/noArrayIndexKey: the same guest may be invited twice
          key={i}
          type="button"
          className="guest"
          aria-label={`${guest.name} leaves`}
          onClick={() => lab.enter({ guests: guests.filter((_, k) => k !== i) })}
        >
          {guest.name} ×
        </button>
      ))}
    </>
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
    why = sentenceOf(error).replace(/^toScenario: n/, 'N');
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

/** What each input is bound to, lit while it is held; touched, it presses that input. */
export function KeysPart() {
  const { ticks, tick, live } = useModel();
  const one = live?.isPlayedHere ? ticks.at(tick).members.find(({ name }) => name === live.player) : undefined;
  if (!one) return null;
  return (
    <ul className="keys" aria-label="Inputs">
      {bindingsOf(one as Seen).map(({ input, keys, held }) => (
        <KeyPart key={input} input={input} keys={keys} held={held} />
      ))}
    </ul>
  );
}

function KeyPart({ input, keys, held }: { input: string; keys: string; held: boolean }) {
  const { live } = useModel();
  const element = useRef<HTMLLIElement>(null);
  useEffect(() => (element.current && live ? live.touch(element.current, input) : undefined), [live, input]);
  return (
    <li ref={element} className={held ? 'held' : ''}>
      <kbd>{keys}</kbd> {input}
    </li>
  );
}
