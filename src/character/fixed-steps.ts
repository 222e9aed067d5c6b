import { want, wantOptions } from '../report/arguments.js';
import { checkNumber, UsageError } from '../report/usage-error.js';
import type { Place } from '../world/world.js';

/** Who is drawn between two ticks: a character, or what has such a readout. */
export interface Drawn {
  readonly readout: {
    readonly x: number;
    readonly y: number;
    readonly z: number;
    readonly drive: { readonly warped: boolean };
  };
}

/** How {@link FixedSteps} goes on. */
export interface FixedStepsOptions {
  /** Most ticks at once: time that would take more is lost, so that a page that was in the background does not catch up. 1 to 1000, default 15. */
  most?: number | undefined;
}

/** Where one was before the last tick; and since when nobody has asked. */
interface Trail {
  x: number;
  y: number;
  z: number;
  idle: number;
}

/** After so many ticks in which nobody has asked where to draw one, its trail is dropped. */
const FORGOTTEN = 600;
/** What is missing of a tick by rounding. */
const HAIR = 1e-9;

/**
 * Whole ticks out of the time that passes on a screen, however often it draws: the same ticks at 30, 60 or 144 pictures a second, or at uneven
 * ones. Between two ticks it says where to draw who moves.
 */
export class FixedSteps {
  /** How fast time passes, 0 to 16: 0.25 is slow motion. Default 1. */
  speed = 1;
  /** While it is true no time passes; `step` does single ticks. */
  paused = false;
  private readonly dt: number;
  private readonly most: number;
  private readonly trails = new Map<Drawn, Trail>();
  private owed = 0;

  /**
   * `rate` is in ticks per second, as `plan.rate` is; `tick` does one: polls devices, ticks the character or the
   * arena, and reads events.
   * @param rate Ticks per second: `plan.rate`.
   * @param tick Does one tick: of a character, of an arena, of all there is.
   * @param options How many steps one frame may take at most.
   * @throws {UsageError} for what is no rate.
   */
  constructor(
    rate: number,
    private readonly tick: () => void,
    options: FixedStepsOptions = {},
  ) {
    wantOptions('FixedSteps', options, ['most']);
    const { most = 15 } = options;
    this.dt = 1 / checkNumber('FixedSteps', 'the rate', rate, 1, 1000);
    this.most = Math.floor(checkNumber('FixedSteps', '"most"', most, 1, 1000));
    if (typeof tick !== 'function')
      throw new UsageError('FixedSteps: give a function that does one tick.', 'wrong-type');
  }

  /**
   * Lets so many seconds pass, as they passed on the screen, and does the ticks that are due. Returns how many.
   * Negative time is none.
   * @param seconds How long the last frame took.
   * @throws {UsageError} for what is no time.
   */
  advance(seconds: number): number {
    const passed = checkNumber('advance', 'seconds', seconds);
    if (this.paused || !(passed > 0)) return 0;
    this.owed += passed * checkNumber('advance', '"speed"', this.speed, 0, 16);
    let done = 0;
    while (this.owed >= this.dt - HAIR && done < this.most) {
      this.owed -= this.dt;
      this.once();
      done++;
    }
    if (this.owed >= this.dt) this.owed = 0;
    return done;
  }

  /** One tick, also while it is paused. */
  step(): void {
    this.once();
    this.owed = 0;
  }

  /** How much of the next tick has passed, 0 to 1. */
  get share(): number {
    return Math.min(1, Math.max(0, this.owed / this.dt));
  }

  /**
   * Where the feet of a character are to be drawn now: between its last two ticks, but at once where it was put
   * somewhere else. Written into `out` if given.
   * @param who A character that these steps tick.
   * @param out Written to and returned. Default: a new object.
   */
  place(who: Drawn, out: { x: number; y: number; z: number } = { x: 0, y: 0, z: 0 }): Required<Place> {
    let trail = this.trails.get(who);
    if (!trail) want(typeof who?.readout?.x === 'number', 'place', 'who is drawn', 'a character', who);
    const { x, y, z } = who.readout;
    if (!trail) {
      trail = { x, y, z, idle: 0 };
      this.trails.set(who, trail);
    }
    trail.idle = 0;
    const { share } = this;
    out.x = trail.x + (x - trail.x) * share;
    out.y = trail.y + (y - trail.y) * share;
    out.z = trail.z + (z - trail.z) * share;
    return out;
  }

  /** Draws all where they are now: after a restore, or in a new scene. */
  cut(): void {
    this.trails.clear();
    this.owed = 0;
  }

  private once(): void {
    for (const [who, trail] of this.trails) {
      catchUp(trail, who);
      trail.idle++;
      if (trail.idle > FORGOTTEN) this.trails.delete(who);
    }
    this.tick();
    for (const [who, trail] of this.trails) if (who.readout.drive.warped) catchUp(trail, who);
  }
}

/** One is drawn from where it is now. */
function catchUp(trail: Trail, { readout }: Drawn): void {
  trail.x = readout.x;
  trail.y = readout.y;
  trail.z = readout.z;
}
