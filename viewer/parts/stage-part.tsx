import { useEffect, useRef } from 'react';
import {
  ALL_PARTS,
  type Camera,
  cameraFor,
  drawStage,
  follow,
  type StageParts,
} from '../../src/draw/stage/draw-stage.js';
import { keep, kept } from '../model/kept.js';
import { trailsOf } from '../model/trails.js';
import { StageOpen } from './stage-open.js';
import { paletteNow, useCanvas, useModel, useQuietModel } from './use.js';

const KEPT = 'stage';
const WORDS: Readonly<Record<keyof StageParts, string>> = {
  volumes: 'volumes',
  probes: 'probes',
  marks: 'marks',
  paths: 'paths',
  names: 'names',
};

/** The world and everybody in it, at the playhead: from the side, or in space. */
export function StagePart() {
  const model = useModel();
  const camera = useRef<Camera | null>(null);
  const follows = useRef(true);
  const parts = useRef<StageParts>({ ...ALL_PARTS, ...(kept(KEPT) as object | null) });
  const isOpen = model.now?.plan.view === 'open';
  const set = (part: keyof StageParts, on: boolean) => {
    parts.current = { ...parts.current, [part]: on };
    keep(KEPT, parts.current);
    model.changed();
  };
  return (
    <section className="stage" aria-label="Stage">
      {isOpen ? (
        <StageOpen parts={parts} follows={follows} />
      ) : (
        <StageSide parts={parts} follows={follows} camera={camera} />
      )}
      <StageSwitches
        parts={parts.current}
        set={set}
        again={() => {
          follows.current = true;
          camera.current = null;
          model.changed();
        }}
      />
    </section>
  );
}

function StageSide({
  parts,
  follows,
  camera,
}: {
  parts: { current: StageParts };
  follows: { current: boolean };
  camera: { current: Camera | null };
}) {
  const model = useQuietModel();
  const held = useRef(false);
  const canvas = useCanvas((pen, width, height) => {
    const then = model.ticks.at(model.tick);
    camera.current ??= cameraFor(then, width, height);
    const view = camera.current;
    const now = then.members.find(({ name }) => name === model.member) ?? then.members[0];
    if (follows.current && now) follow(view, now, width, height);
    const { ghost, ghostTick } = model;
    const trails = parts.current.paths ? trailsOf(model.ticks, model.tick) : [];
    const ghostTrails = ghost && parts.current.paths ? trailsOf(ghost.ticks, ghostTick) : [];
    drawStage(pen, model.ticks.at(model.tick), {
      width,
      height,
      camera: view,
      palette: paletteNow(),
      parts: parts.current,
      trails,
      ghostTrails,
      ghost: ghost?.ticks.at(ghostTick) ?? null,
      selected: model.member,
      scenery: model.scenery,
    });
  });
  // While somebody plays, the pointer is the game's: it aims, and its buttons are inputs.
  const isPlayed = () => model.live?.isPlayedHere && model.playing;
  useEffect(() => {
    const pointer = canvas.current;
    if (!pointer) return;
    model.point({
      pointer,
      toWorld(clientX, clientY) {
        const box = pointer.getBoundingClientRect();
        const view = camera.current;
        if (!view) return undefined;
        return [
          view.x + (clientX - box.left - box.width / 2) / view.scale,
          view.y - (clientY - box.top - box.height / 2) / view.scale,
        ];
      },
    });
    return () => model.point(null);
  }, [model, canvas, camera]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="The world and everybody in it"
      onPointerDown={(event) => {
        if (isPlayed()) return;
        held.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (!held.current || !camera.current) return;
        follows.current = false;
        camera.current.x -= event.movementX / camera.current.scale;
        camera.current.y += event.movementY / camera.current.scale;
        model.changed();
      }}
      onPointerUp={() => {
        held.current = false;
      }}
      onDoubleClick={() => {
        follows.current = true;
        camera.current = null;
        model.changed();
      }}
      onWheel={(event) => {
        if (!camera.current) return;
        camera.current.scale = Math.max(2, Math.min(400, camera.current.scale * 1.0015 ** -event.deltaY));
        model.changed();
      }}
    />
  );
}

function StageSwitches({
  parts,
  set,
  again,
}: {
  parts: StageParts;
  set: (part: keyof StageParts, on: boolean) => void;
  again: () => void;
}) {
  useModel();
  return (
    <div className="switches">
      {(Object.keys(WORDS) as (keyof StageParts)[]).map((part) => (
        <label key={part}>
          <input type="checkbox" checked={parts[part]} onChange={(event) => set(part, event.target.checked)} />
          {WORDS[part]}
        </label>
      ))}
      <button type="button" onClick={again}>
        follow
      </button>
    </div>
  );
}
