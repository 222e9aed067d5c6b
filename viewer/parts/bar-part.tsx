import { useRef } from 'react';
import { wordSeconds } from '../../src/draw/timeline/ticks.js';
import { sentenceOf } from '../model/grounds.js';
import { SPEEDS } from '../model/model.js';
import { chooseFile, saveRun } from '../model/own-files.js';
import { useModel } from './use.js';

/** The title, and what is done with time. */
export function BarPart({ help, open }: { help: () => void; open: (file: File | undefined) => void }) {
  const model = useModel();
  const { tick, ticks, playing, speed, loop, title, flags, made } = model;
  const seconds = (at: number) => wordSeconds(at, ticks.rate);
  return (
    <header className="bar">
      <h1 title={title}>{title}</h1>
      <div className="transport" role="toolbar" aria-label="Time">
        <button type="button" onClick={() => model.step(-1)} title="One tick back (,)" aria-label="One tick back">
          −1
        </button>
        <button type="button" className="main" onClick={() => model.toggle()} title="Space" aria-pressed={playing}>
          {playing ? 'Pause' : 'Play'}
        </button>
        <button type="button" onClick={() => model.step(1)} title="One tick forward (.)" aria-label="One tick forward">
          +1
        </button>
        <label>
          <span className="hidden">Speed</span>
          <select value={speed} onChange={(event) => model.setSpeed(Number(event.target.value))} aria-label="Speed">
            {SPEEDS.map((one) => (
              <option key={one} value={one}>
                {one === 1 ? 'full speed' : `1/${Math.round(1 / one)} speed`}
              </option>
            ))}
          </select>
        </label>
        <output aria-live="off">
          {seconds(tick)} <small>tick {tick}</small>
        </output>
      </div>
      <div className="jumps" role="toolbar" aria-label="Jump">
        {(['refusal', 'start', 'blow'] as const).map((kind) => (
          <span key={kind} className="jump">
            <button type="button" onClick={() => model.jump(kind, -1)} aria-label={`${kind} before`}>
              ‹
            </button>
            {kind}
            <button type="button" onClick={() => model.jump(kind, 1)} aria-label={`next ${kind}`}>
              ›
            </button>
          </span>
        ))}
        <button
          type="button"
          aria-pressed={loop !== null}
          onClick={() => model.toggleLoop()}
          title="Plays what the timeline shows again and again (L)"
        >
          loop
        </button>
        <button type="button" onClick={() => model.showAll()} title="The whole recording (0)">
          all
        </button>
        <RunMenu open={open} />
        <button type="button" onClick={help} title="Keys (?)" aria-label="Keys">
          ?
        </button>
      </div>
      {(flags.length > 0 || made !== null || model.told !== '') && (
        <div className="notes" role="status">
          {flags.map((flag) => (
            <button type="button" key={flag.tick + flag.text} className="flag" onClick={() => model.goTo(flag.tick)}>
              {seconds(flag.tick)}: {flag.text}
            </button>
          ))}
          {model.told !== '' && <span>{model.told}</span>}
          {made !== null && (
            <>
              <label>
                <input
                  type="checkbox"
                  checked={model.fromStart}
                  onChange={(event) => model.setFromStart(event.target.checked)}
                />
                from the first tick on
              </label>
              <button type="button" onClick={() => revert(model)}>
                undo all edits
              </button>
            </>
          )}
        </div>
      )}
    </header>
  );
}

/** The run that is shown as a file, and one from a file. */
function RunMenu({ open }: { open: (file: File | undefined) => void }) {
  const model = useModel();
  const menu = useRef<HTMLDetailsElement>(null);
  const close = () => menu.current?.removeAttribute('open');
  return (
    <details
      ref={menu}
      className="menu"
      onBlur={({ currentTarget, relatedTarget }) => !currentTarget.contains(relatedTarget) && close()}
      onKeyDown={({ key }) => key === 'Escape' && close()}
    >
      <summary>run</summary>
      <div>
        <button
          type="button"
          onClick={() => {
            close();
            saveRun(model).catch((error) => model.tell(`The run cannot be saved: ${sentenceOf(error)}`));
          }}
        >
          save it as a file
        </button>
        <button
          type="button"
          onClick={async () => {
            close();
            open((await chooseFile({ accept: '.jsonl,.gz' }))[0]);
          }}
        >
          open one from a file…
        </button>
        <p className="quiet">A file can be dropped onto the page, too.</p>
      </div>
    </details>
  );
}

function revert(model: ReturnType<typeof useModel>): void {
  for (const file of model.files) file.text = file.saved;
  model.forgetEdits();
}
