import { at, Block, type Code, js, type Lines, library, literal, tight, to, when } from '../../record/code.js';
import { C_TAKEN, C_TAKEN_UP } from '../../record/combat.js';
import type { Frame, Operand } from '../../record/frame.js';
import { Q_HIT, Q_NORMAL, Q_POINT, Q_VELOCITY } from '../../record/layout.js';
import {
  CAMERA_X,
  CAMERA_Z,
  FORCED,
  FORCED_VELOCITY,
  FX,
  FZ,
  LEVEL,
  SHAPE,
  SPEED,
  T,
  UPRIGHT,
  VX,
  VY,
  VZ,
  X,
  Y,
  Z,
} from '../../record/slots.js';
import { codeOf, withAll, writtenLines } from '../../record/written.js';
import { compileDirections, type Heading, headings, usable } from '../directions/direction.js';
import type { Amount, NameTypes, NumberFormula, Share, Time, Uses } from '../name-types.js';
import {
  fields,
  formula,
  list,
  name,
  number,
  optional,
  type Read,
  required,
  sound,
  time,
  truth,
  word,
} from '../shape.js';
import { effect } from './effect.js';

/** The key `move` of what has effects. */
export interface MoveField<N extends NameTypes> {
  /** Velocity given to the body while it lasts. */
  move?: Move<Uses<N>>;
}

/** A step of a curve. */
export interface CurveStep {
  /** When, from the beginning of the move. */
  at: Time;
  /** Where the body is then, from where it began. */
  to: readonly [forward: number, up: number, side?: number];
}

/** Velocity that an ability or phase gives the body. Direction and speed are taken once, as it begins, unless it is `live`. */
export interface Move<N extends NameTypes = NameTypes> {
  /**
   * Where to: the first of these that has a direction. `into(probe)` is against what the probe finds, `out(probe)` away
   * from it. Needs `speed` or `distance`.
   */
  along?: Heading<N> | readonly Heading<N>[];
  /**
   * Per second, along `along`. The body goes on at that speed afterwards and brakes by `walk.brake`, unless `keep` says
   * otherwise: 18 for 0.2s carries it 3.6, and 2.7 more at a brake of 60.
   */
  speed?: Amount<N>;
  /**
   * How far it carries the body along `along`, in the whole time of its phase or ability, if nothing ends that or is in the
   * way. Then `keep` is 0, unless it says otherwise.
   */
  distance?: NumberFormula<N>;
  /** Upwards, per second. A percentage multiplies the upward velocity once, as it begins. */
  up?: Amount<N>;
  /** Along facing, per second. A percentage multiplies the level velocity once, as it begins. */
  forward?: Amount<N>;
  /**
   * `set` (default) holds the parts it names, level or upright, and leaves the other alone; `replace` holds
   * the whole velocity; `add` adds once, as it begins; `push` adds in each tick: its numbers are per second squared.
   */
  mode?: 'set' | 'add' | 'replace' | 'accelerate';
  /** Takes direction and speed again in each tick. Default false: once, as it begins. What is added is added once. */
  live?: boolean;
  /** Takes only the level part of the direction. Default false. */
  flat?: boolean;
  /** How far a stick must be pushed to count, 0 to 1. Default 0.3. */
  tilt?: number;
  /** Moves with the surface that this probe finds, and takes only the part of the direction along it; taken in each tick. */
  on?: N['probe'];
  /** With `on`: how far the middle of the body is kept from that surface. Default: as it is. */
  gap?: NumberFormula<N>;
  /** How much of its walking speed the stick adds, level, in each tick: `30%`. Default 0. */
  steer?: Share<N>;
  /** Where it leads the body from where it began, relative to facing: at each time [forward, up], evenly in between. */
  curve?: readonly CurveStep[];
  /**
   * How much of the parts of the velocity that it names is kept when it ends, however it ends: `0` or `0%` stops,
   * `30%` keeps a share, `1` keeps all. Default 1; with `distance`, 0.
   */
  keep?: Amount<N>;
}

const speed = formula('number', { percent: true, min: -10_000, max: 10_000 });
/** For who looks for the word of probes and strikes. */
export const TILT = 'How far a stick must be pushed is "tilt"; how far a move goes, "distance".';

const aims = { key: 'along', doc: 'the direction that this is about.' };
/** @internal */
export const moveShape = fields(
  'move',
  {
    along: optional(headings),
    speed: optional(formula('number', { min: -10_000, max: 10_000 })),
    distance: optional(formula('number', { min: -10_000, max: 10_000 })),
    up: optional(speed),
    forward: optional(speed),
    mode: optional({
      ...word('set', 'add', 'replace', 'accelerate'),
      hint: (mode) => (mode === 'push' ? 'What adds in each tick is "accelerate".' : undefined),
    }),
    live: optional(truth()),
    flat: optional(truth()),
    tilt: optional(number(0, 1)),
    on: optional(name('probe')),
    gap: optional(formula('number', { min: 0, max: 10_000 })),
    steer: optional(formula('number', { percent: true, share: true, min: 0, max: 1 })),
    curve: optional(
      list(
        fields('a step of a curve', {
          at: required(time(), 'when, from the beginning of the move.'),
          to: required(list(number(-10_000, 10_000), { min: 2, max: 3 }), 'where it is then: [forward, up].'),
        }),
        { min: 1, max: 256 },
      ),
    ),
    keep: optional(formula('number', { percent: true, share: true, min: 0, max: 1 })),
  },
  undefined,
  {
    needs: {
      along: { key: 'speed', or: 'distance', doc: 'how fast it goes in that direction (or "distance": how far).' },
      speed: aims,
      distance: aims,
      flat: aims,
      tilt: aims,
      gap: { key: 'on', doc: 'the probe that finds the surface.' },
    },
    elsewhere: { reach: TILT },
  },
);

/** The numbers it owns: the parts that it holds, the velocity it holds them at (x, y, z), the parts that it named, since when. */
const OWNS = 6;
const O_HELD = 0;
const O_VELOCITY = 1;
const O_NAMED = 4;
const O_SINCE = 5;

/** How fast a gap is closed or opened at most, in heights of the body per second: what is far off is not snapped to. */
const CLOSING = 6;

/** How much nearer than its gap a body stays that is pushed off a surface and does not move along it, in its heights. */
const HAIR = 1e-3;

/** @internal */
export const moveEffect = effect(
  'move',
  moveShape,
  (value, tools) => {
    const aim = compileDirections(value.along, value, tools);
    // How far it goes in the whole time of its scope, or how far in a second.
    const { speed = value.distance } = value;
    const along = speed && tools.number(speed);
    const perSecond = value.distance ? 1 / (tools.lasts() * tools.dt) : 1;
    const up = value.up && tools.number(value.up);
    const forward = value.forward && tools.number(value.forward);
    const { mode = 'set' } = value;
    const gap = value.gap && tools.number(value.gap);
    const steer = value.steer && tools.number(value.steer);
    const probe = value.on === undefined ? null : tools.probe(value.on);
    const curve = stepsOf(value.curve);
    const live =
      value.live === true || mode === 'accelerate' || probe !== null || steer !== undefined || curve.length > 0;
    const { dt, heights } = tools;
    const stick = tools.walkStick();
    const keep = value.keep || value.distance ? tools.amount(value.keep, 0) : undefined;
    const out = new Float64Array(3);

    /** Takes direction and speed; percentages multiply what there is only as it begins. */
    const take = (c: Frame, own: number, first: boolean) => {
      const { r } = c;
      let held = 0;
      let scaled = 0;
      let x = 0;
      let y = 0;
      let z = 0;
      if (along && aim(c, out)) {
        along.run?.(c);
        const pace = usable(r[along.at]) * perSecond;
        x = out[0] * pace;
        y = out[1] * pace;
        z = out[2] * pace;
        // Also at no pace: it holds still.
        if (out[0] !== 0 || out[2] !== 0) held |= LEVEL;
        if (out[1] !== 0) held |= UPRIGHT;
      }
      if (forward) {
        forward.run?.(c);
        const pace = usable(r[forward.at]);
        if (value.forward?.percent) {
          scaled |= LEVEL;
          if (first) {
            r[VX] *= pace;
            r[VZ] *= pace;
          }
        } else {
          x += r[FX] * pace;
          z += r[FZ] * pace;
          held |= LEVEL;
        }
      }
      if (up) {
        up.run?.(c);
        const pace = usable(r[up.at]);
        if (value.up?.percent) {
          scaled |= UPRIGHT;
          if (first) r[VY] *= pace;
        } else {
          y += pace;
          held |= UPRIGHT;
        }
      }
      if (curve.length > 0) {
        if (first) r[own + O_SINCE] = r[T];
        const passed = r[T] - r[own + O_SINCE];
        const ahead = (reached(curve, passed + 1, 0) - reached(curve, passed, 0)) / dt;
        const aside = (reached(curve, passed + 1, 2) - reached(curve, passed, 2)) / dt;
        x += r[FX] * ahead - r[FZ] * aside;
        y += (reached(curve, passed + 1, 1) - reached(curve, passed, 1)) / dt;
        z += r[FZ] * ahead + r[FX] * aside;
        held |= LEVEL | UPRIGHT;
      }
      if (steer && stick >= 0) {
        steer.run?.(c);
        const pace = usable(r[steer.at]) * r[SPEED];
        if (tools.view === 'side') x += r[stick] * pace;
        else {
          x += (r[stick] * -r[CAMERA_Z] + r[stick + 1] * r[CAMERA_X]) * pace;
          z += (r[stick] * r[CAMERA_X] + r[stick + 1] * r[CAMERA_Z]) * pace;
        }
        held |= LEVEL;
      }
      if (probe) {
        c.probe(probe.index);
        if (r[probe.at + Q_HIT] === 1) {
          const q = probe.at + Q_NORMAL;
          let closing = 0;
          if (gap) {
            gap.run?.(c);
            const apart =
              (r[X] - r[probe.at + Q_POINT]) * r[q] +
              (r[Y] + heights[r[SHAPE]] / 2 - r[probe.at + Q_POINT + 1]) * r[q + 1] +
              (r[Z] - r[probe.at + Q_POINT + 2]) * r[q + 2];
            const most = CLOSING * heights[r[SHAPE]];
            let open = usable(r[gap.at]) - apart;
            // In an inner corner, what stops it stays nearest, or it would turn to the other side and run into it again.
            if (open > 0 && x === 0 && y === 0 && z === 0) open = Math.max(0, open - HAIR * heights[r[SHAPE]]);
            closing = Math.max(-most, Math.min(most, open / dt));
          }
          x += r[q] * closing + r[probe.at + Q_VELOCITY];
          y += r[q + 1] * closing + r[probe.at + Q_VELOCITY + 1];
          z += r[q + 2] * closing + r[probe.at + Q_VELOCITY + 2];
        }
        held |= LEVEL | UPRIGHT;
      }
      if (mode === 'replace') held = LEVEL | UPRIGHT;
      r[own + O_NAMED] = held | scaled;
      if (mode === 'accelerate') {
        r[VX] += x * dt;
        r[VY] += y * dt;
        r[VZ] += z * dt;
        return;
      }
      if (mode === 'add') {
        if (!first) return;
        r[VX] += x;
        r[VY] += y;
        r[VZ] += z;
        return;
      }
      r[own + O_HELD] = held;
      r[own + O_VELOCITY] = x;
      r[own + O_VELOCITY + 1] = y;
      r[own + O_VELOCITY + 2] = z;
    };
    /** Where several hold the same part of the velocity, the last one counts. */
    const fold = ({ r }: Frame, own: number) => {
      const held = r[own + O_HELD];
      if (held & LEVEL) {
        r[FORCED_VELOCITY] = r[own + O_VELOCITY];
        r[FORCED_VELOCITY + 2] = r[own + O_VELOCITY + 2];
      }
      if (held & UPRIGHT) r[FORCED_VELOCITY + 1] = r[own + O_VELOCITY + 1];
      r[FORCED] |= held;
    };
    const { combatAt } = tools;
    /** A push of this tick came after what the move gave. */
    const isPushed = ({ r }: Frame, since: number) => combatAt >= 0 && r[combatAt + since] === r[T];
    const end =
      keep &&
      writtenLines(
        (c: Frame, own: number) => {
          const { r } = c;
          keep.run?.(c);
          const part = Number.isNaN(r[keep.at]) ? 1 : r[keep.at];
          const named = r[own + O_NAMED];
          if (named & LEVEL && !isPushed(c, C_TAKEN)) {
            r[VX] *= part;
            r[VZ] *= part;
          }
          if (named & UPRIGHT && !isPushed(c, C_TAKEN_UP)) r[VY] *= part;
        },
        (own) => withAll([tools.codeOf(keep)], (share) => keepCode(share, own, combatAt)),
      );
    const isSimple = probe === null && !steer && curve.length === 0;
    const code = (first: boolean) => (own: number) => {
      if (!isSimple) return undefined;
      const amount = (operand: Operand | undefined) => (operand ? tools.codeOf(operand) : undefined);
      const codes = {
        aim: along ? codeOf(aim) : undefined,
        along: amount(along),
        forward: amount(forward),
        up: amount(up),
      };
      if ((along && !(codes.aim && codes.along)) || (forward && !codes.forward) || (up && !codes.up)) return undefined;
      const { percent: level } = value.forward ?? {};
      const { percent: upright } = value.up ?? {};
      return takeCode({ ...codes, perSecond, level, upright, mode, dt, first }, own);
    };
    return {
      begin: writtenLines((c: Frame, own: number) => take(c, own, true), code(true)),
      each: live ? writtenLines((c: Frame, own: number) => take(c, own, false), code(false)) : undefined,
      fold: mode === 'add' || mode === 'accelerate' ? undefined : writtenLines(fold, foldCode),
      end,
    };
  },
  { inStances: false, owns: OWNS },
);

/** A move as code: expressions, and what `take` knows of it. */
interface MoveCode {
  /** Whether it has a direction: it writes that to `aimed` of the directions. */
  readonly aim: Code | undefined;
  /** Pace in that direction. */
  readonly along: Code | undefined;
  /** What that is multiplied by. */
  readonly perSecond: number;
  /** Pace along facing, or a factor. */
  readonly forward: Code | undefined;
  /** Whether it is a factor. */
  readonly level: boolean | undefined;
  /** Pace upwards, or a factor. */
  readonly up: Code | undefined;
  /** Whether it is a factor. */
  readonly upright: boolean | undefined;
  /** What becomes of the velocity. */
  readonly mode: NonNullable<Read<typeof moveShape>['mode']>;
  /** Seconds in a tick. */
  readonly dt: number;
  /** It is the tick in which the move begins. */
  readonly first: boolean;
}

/** The code of `take`, of a move without a curve, a probe or steering. */
function takeCode(move: MoveCode, own: number): Lines {
  const { aim, along, perSecond, forward, level, up, upright, mode, dt, first } = move;
  const lines: Lines[number][] = [];
  let held = mode === 'replace' ? LEVEL | UPRIGHT : 0;
  let scaled = 0;
  const block = (...inside: Lines) => new Block([js`{`, inside, js`}`]);
  if (aim && along) {
    const aimed = library('aimed');
    lines.push(
      new Block([
        js`if (${aim}) {`,
        [
          perSecond === 1
            ? js`const pace = ${usableCode(along)};`
            : js`const pace = ${usableCode(along)} * ${perSecond};`,
          ...['x', 'y', 'z'].map((axis, i) => js`${axis} = ${aimed}[${i}] * pace;`),
          ...(mode === 'replace'
            ? []
            : [
                js`if (${aimed}[0] !== 0 || ${aimed}[2] !== 0) held |= ${LEVEL};`,
                js`if (${aimed}[1] !== 0) held |= ${UPRIGHT};`,
              ]),
        ],
        js`}`,
      ]),
    );
  }
  if (forward) {
    const pace = js`const pace = ${usableCode(forward)};`;
    if (level) scaled |= LEVEL;
    else held |= LEVEL;
    if (!level) lines.push(block(pace, js`x += ${at(FX)} * pace;`, js`z += ${at(FZ)} * pace;`));
    else if (first) lines.push(block(pace, js`${to(VX)} *= pace;`, js`${to(VZ)} *= pace;`));
  }
  if (up) {
    if (upright) scaled |= UPRIGHT;
    else held |= UPRIGHT;
    if (!upright) lines.push(js`y += ${usableCode(up)};`);
    else if (first) lines.push(js`${to(VY)} *= ${usableCode(up)};`);
  }
  const finds = along !== undefined && mode !== 'replace';
  const holds = finds ? js`held | ${held}` : literal(held);
  lines.push(js`${to(own + O_NAMED)} = ${scaled === 0 ? holds : js`${holds} | ${scaled}`};`);
  const velocity = (slot: number, write: (axis: string) => Code) =>
    ['x', 'y', 'z'].map((axis, i) => js`${to(slot + i)} ${write(axis)};`);
  if (mode === 'accelerate') lines.push(...velocity(VX, (axis) => js`+= ${axis} * ${dt}`));
  else if (mode === 'add') lines.push(...(first ? velocity(VX, (axis) => js`+= ${axis}`) : []));
  else lines.push(js`${to(own + O_HELD)} = ${holds};`, ...velocity(own + O_VELOCITY, (axis) => js`= ${axis}`));
  return [block(js`let x = 0;`, js`let y = 0;`, js`let z = 0;`, ...(finds ? [js`let held = 0;`] : []), ...lines)];
}

/** The code of what is kept of a velocity. */
function keepCode(share: Code, own: number, combatAt: number): Lines {
  const named = (part: number, taken: number) => {
    const held = js`${at(own + O_NAMED)} & ${part}`;
    return combatAt < 0 ? held : js`${held} && ${at(combatAt + taken)} !== ${at(T)}`;
  };
  const part =
    share.traits.literal === undefined
      ? [js`const share = ${share};`, js`const part = Number.isNaN(share) ? 1 : share;`]
      : [js`const part = ${share};`];
  return [
    new Block([
      js`{`,
      [
        ...part,
        when(named(LEVEL, C_TAKEN), [js`${to(VX)} *= part;`, js`${to(VZ)} *= part;`]),
        js`if (${named(UPRIGHT, C_TAKEN_UP)}) ${to(VY)} *= part;`,
      ],
      js`}`,
    ]),
  ];
}

/** The code of `usable`. */
function usableCode(pace: Code): Code {
  return pace.traits.literal === undefined ? tight(js`${library('usable')}(${pace})`) : pace;
}

/** The code of `fold`. */
const foldCode = (own: number): Lines => {
  const held = at(own + O_HELD);
  return [
    when(js`${held} & ${LEVEL}`, [
      js`${to(FORCED_VELOCITY)} = ${at(own + O_VELOCITY)};`,
      js`${to(FORCED_VELOCITY + 2)} = ${at(own + O_VELOCITY + 2)};`,
    ]),
    js`if (${held} & ${UPRIGHT}) ${to(FORCED_VELOCITY + 1)} = ${at(own + O_VELOCITY + 1)};`,
    js`${to(FORCED)} |= ${held};`,
  ];
};

type ParsedStep = { readonly at: number; readonly to: readonly number[] };

/** The steps of a curve in the order of their times; it begins where the body is. */
function stepsOf(curve: Read<typeof moveShape>['curve']): readonly ParsedStep[] {
  const steps = (curve ?? []).flatMap((step) =>
    step?.at !== undefined && step.to ? [{ at: step.at, to: sound(step.to) }] : [],
  );
  return steps.sort((a, b) => a.at - b.at);
}

/** How far a curve leads by a tick, along one of its axes. */
function reached(steps: readonly ParsedStep[], tick: number, axis: number): number {
  let at = 0;
  let from = 0;
  for (let i = 0; i < steps.length; i++) {
    const step = steps[i];
    const to = step.to[axis] ?? 0;
    if (tick <= step.at) return step.at === at ? to : from + ((to - from) * (tick - at)) / (step.at - at);
    at = step.at;
    from = to;
  }
  return from;
}
