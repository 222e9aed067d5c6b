import { memo, useRef, useState } from 'react';
import type { Plan } from '../../src/compile/plan.js';
import {
  AXIS,
  drawTimeline,
  LABELS,
  layOutRows,
  type TimelineView,
  timelineAt,
  timeScale,
  wordHit,
} from '../../src/draw/timeline/draw-timeline.js';
import type { Model } from '../model/model.js';
import { paletteNow, useCanvas, useModel, useQuietModel } from './use.js';

/** Tracks over time, with one playhead. */
export function TimelinePart() {
  const model = useQuietModel();
  const scroll = useRef(0);
  const held = useRef<'time' | 'pan' | null>(null);
  const [told, setTold] = useState('');
  const size = useRef({ width: 0, height: 0 });
  const view = (): TimelineView => viewOf(model, size.current, scroll.current);
  const canvas = useCanvas((pen, width, height) => {
    size.current = { width, height };
    const { height: whole } = layOutRows(model.timeline, model.live?.player);
    scroll.current = Math.max(0, Math.min(scroll.current, whole - height));
    drawTimeline(pen, model.timeline, view());
  });
  const place = (event: { clientX: number; clientY: number }): [number, number] => {
    const box = canvas.current?.getBoundingClientRect();
    return [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
  };
  const scrub = (x: number) => {
    model.pause();
    model.goTo(Math.floor(timeScale(view()).invert(Math.max(LABELS, x))));
  };
  return (
    <section className="timeline" aria-label="Timeline">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="slider"
        aria-label="Time"
        aria-valuemin={0}
        aria-valuemax={model.ticks.last}
        aria-valuenow={model.tick}
        aria-valuetext={`${(model.tick / model.ticks.rate).toFixed(2)} seconds`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          const [x, y] = place(event);
          if (event.button === 1 || event.shiftKey) {
            held.current = 'pan';
            return;
          }
          held.current = 'time';
          const hit = timelineAt(view(), x, y);
          if (hit.kind !== 'time') model.member = hit.member;
          if (hit.kind === 'refusal') {
            model.pause();
            model.goTo(hit.mark.tick);
            model.ask(hit.mark.ability);
            held.current = null;
          } else if (hit.kind === 'bar') {
            scrub(x);
            model.choose(hit.bar.ability);
          } else if (hit.kind === 'used' || hit.kind === 'blow') {
            model.goTo(hit.tick);
            if (hit.kind === 'used') model.choose(hit.ability);
          } else scrub(x);
        }}
        onPointerMove={(event) => {
          const [x, y] = place(event);
          if (held.current === 'time') scrub(x);
          else if (held.current === 'pan') {
            const { from, to, width } = view();
            model.pan((-event.movementX * (to - from)) / (width - LABELS));
          } else setTold(y < AXIS || x > LABELS ? wordHit(timelineAt(view(), x, y), model.timeline) : '');
        }}
        onPointerUp={() => {
          held.current = null;
        }}
        onPointerLeave={() => setTold('')}
        onWheel={(event) => {
          const [x] = place(event);
          if (event.shiftKey) {
            scroll.current += event.deltaY;
            model.changed();
          } else if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
            const { from, to, width } = view();
            model.pan((event.deltaX * (to - from)) / (width - LABELS));
          } else model.zoom(1.0015 ** event.deltaY, timeScale(view()).invert(Math.max(LABELS, x)));
        }}
      />
      <div className="foot">
        <p className="told" aria-live="off">
          {told || 'Drag to scrub; the wheel zooms, with Shift it scrolls; click a mark.'}
        </p>
        <CurvesPart />
      </div>
    </section>
  );
}

/** Facts that are drawn as curves: each can go, and any other one can come. */
function CurvesPart() {
  const model = useModel();
  const [asked, setAsked] = useState('');
  const { facts } = model;
  const add = () => {
    const fact = asked.trim();
    if (fact === '') return;
    if (model.now?.plan.reading(fact) === undefined) model.tell(`There is no fact "${fact}" that could be drawn.`);
    else if (!facts.includes(fact)) model.setFacts([...facts, fact]);
    setAsked('');
  };
  return (
    <span className="curves">
      {facts.map((fact) => (
        <button
          key={fact}
          type="button"
          aria-label={`No curve of ${fact}`}
          onClick={() => model.setFacts(facts.filter((one) => one !== fact))}
        >
          {fact} ×
        </button>
      ))}
      <input
        value={asked}
        placeholder="curve of…"
        aria-label="Draw a curve of a fact"
        list="facts"
        onChange={(event) => setAsked(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') add();
          if (event.key === 'Escape') event.currentTarget.blur();
        }}
        onBlur={add}
      />
      <FactList plan={model.now?.plan} />
    </span>
  );
}

/** All facts of a moveset: hundreds, which stay the same while it plays. */
const FactList = memo(({ plan }: { plan: Plan | undefined }) => (
  <datalist id="facts">
    {plan?.factNames().map((name) => (
      <option key={name} value={name} />
    ))}
  </datalist>
));

function viewOf(model: Model, { width, height }: { width: number; height: number }, scroll: number): TimelineView {
  const { from, to, tick, flags, ability, ghost } = model;
  return {
    rows: layOutRows(model.timeline, model.live?.player).rows,
    width,
    height,
    from,
    to,
    playhead: tick,
    scroll,
    flags: flags.map((flag) => flag.tick),
    palette: paletteNow(),
    ...(ability !== null && { lit: ability }),
    ...(ghost && { ghost: ghost.timeline }),
  };
}
