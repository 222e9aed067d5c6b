import { Cast, Hit, type TileWorld } from '../src/index.js';

const DT = 1 / 60;
const NONE = 0;
const HOP = 1;
const SECOND = 2;
const DASH = 3;
const SLIDE = 4;
const CLING = 5;
const CLIMB_UP = 6;
const LEDGE_HOP = 7;
const WALL_HOP = 8;
const SCRAMBLE = 9;
const RUNGS = 10;
const DROP = 11;
const HOOK = 12;
const SWING = 13;
const TIDE = 14;
const CAST = 15;
const ROUGH = ['rough'];
const LADDER = ['rungs'];
const POST = ['post'];
const PLANKS = ['oneWay'];

/**
 * The moves of Pell on Mast Row as one programmer would write them for this game: a number for what is being done, timers,
 * and questions to the world only where an answer is needed. It plays the same, but is not held equal tick for tick.
 */
export class MastRowByHand {
  x = 2.5;
  y = 1;
  vx = 0;
  vy = 0;
  facing = 1;
  grounded = true;
  wind = 24;
  oil = 25;
  /** How often each move was made. */
  readonly made = new Int32Array(16);
  private doing = NONE;
  private time = 0;
  private readonly held = new Uint8Array(16);
  private readonly pressed = new Uint8Array(16);
  private rest = 0;
  private air = 1;
  private dashes = 1;
  private scrambles = 1;
  private readonly wait = new Float64Array(16);
  private grace = 0;
  private hookX = 0;
  private hookY = 0;
  private hooked = false;
  private moored = false;
  private mooredX = 0;
  private mooredY = 0;
  private atPost = false;
  private aimX = 1;
  private aimY = 0;
  private atWall = false;
  private low = false;
  private readonly cast = new Cast();
  private readonly hit = new Hit();

  constructor(private readonly world: TileWorld) {}

  key(key: number, down: boolean): void {
    this.held[key] = down ? 1 : 0;
    if (down) this.pressed[key] = 1;
  }

  aim(x: number, y: number): void {
    const length = Math.sqrt(x * x + y * y);
    this.aimX = x / length;
    this.aimY = y / length;
  }

  tick(): void {
    const { held, pressed, wait } = this;
    for (let i = 0; i < wait.length; i++) if (wait[i] > 0) wait[i]--;
    this.time++;
    const sx = held[RIGHT] - held[LEFT];
    if (this.rest > 0) this.rest--;
    else this.wind = Math.min(24, this.wind + 1.5 * DT);
    this.oil = Math.min(40, this.oil + DT);
    if (this.grounded) {
      this.air = this.dashes = this.scrambles = 1;
      this.grace = 6;
    } else if (this.grace > 0) this.grace--;
    if (sx !== 0 && this.doing !== DASH && this.doing !== SLIDE && this.doing !== CLING && this.doing !== WALL_HOP)
      this.facing = sx;
    this.touchPost();
    this.finish(sx);
    this.begin(sx);
    this.move(sx);
    pressed.fill(0);
  }

  private start(what: number): void {
    this.doing = what;
    this.time = 0;
    this.made[what]++;
  }

  private stop(): void {
    if (this.doing === DASH) {
      this.vx *= 0.4;
      this.vy *= 0.4;
    } else if (this.doing === SLIDE) {
      this.vx *= 0.5;
      this.wait[SLIDE] = 24;
    } else if (this.doing === SCRAMBLE) this.vy *= 0.4;
    else if (this.doing === CLING || this.doing === RUNGS) this.wait[this.doing] = 18;
    else if (this.doing === HOOK || this.doing === SWING) {
      this.wait[this.doing] = 24;
      this.hooked = false;
    }
    this.doing = NONE;
  }

  private finish(sx: number): void {
    const { held, time } = this;
    switch (this.doing) {
      case HOP:
      case SECOND:
        if (time > 1 && (this.vy <= 0 || !held[JUMP])) {
          if (this.vy > 0) this.vy *= 0.45;
          this.stop();
        }
        break;
      case LEDGE_HOP:
        if (time > 1 && (this.vy <= 0 || !held[JUMP])) this.stop();
        break;
      case DASH:
        if (time >= 12 || this.grounded || this.atWall) this.stop();
        break;
      case SLIDE:
        if (time >= 60 || !held[DOWN] || !this.grounded || this.atWall) this.stop();
        break;
      case CLING:
        if (held[DOWN] || sx * this.facing < 0 || !this.ahead(1.5, null)) this.stop();
        break;
      case CLIMB_UP:
        if (time >= 6) this.stop();
        break;
      case WALL_HOP:
        if (time >= 8 || this.grounded) this.stop();
        break;
      case SCRAMBLE:
        if (time >= 42 || !held[CLIMB] || sx !== this.facing || !this.rough()) this.stop();
        break;
      case RUNGS:
        if (!this.touches(0.15, 0.15, 0.5, LADDER) || (this.grounded && time > 2)) this.stop();
        break;
      case DROP:
        if (time >= 12) this.stop();
        break;
      case HOOK:
        if (!held[HOOK_KEY] || this.atWall || this.distance() < 1.2) this.stop();
        break;
      case SWING:
        if (!held[SWING_KEY]) this.stop();
        break;
      case TIDE:
        if (time >= 4) this.stop();
        break;
      case CAST:
        if (time < 30 && Math.abs(this.vx) > 0.05) this.stop();
        else if (time === 30) {
          if (this.oil < 10) this.stop();
          else {
            this.oil -= 10;
            this.x = this.mooredX;
            this.y = this.mooredY;
            this.vx = this.vy = 0;
          }
        } else if (time >= 36) this.stop();
        break;
    }
  }

  private begin(sx: number): void {
    const { held, pressed, doing } = this;
    const free = doing === NONE;
    const skids = !this.grounded && this.vy < 0 && sx === this.facing && this.ahead(0.9, null);
    if (pressed[JUMP]) {
      if (doing === CLING) {
        this.stop();
        this.start(LEDGE_HOP);
        this.vy = 9;
        this.air = 1;
      } else if (free && this.grounded && held[DOWN] && this.onPlanks()) this.start(DROP);
      else if (free && this.grace > 0 && this.wind >= 3) {
        this.spend(3);
        this.grace = 0;
        this.start(HOP);
        this.vy = 9.5;
      } else if (free && skids) {
        this.start(WALL_HOP);
        this.facing = -this.facing;
      } else if (
        !this.grounded &&
        this.air > 0 &&
        this.wind >= 3 &&
        (free || doing === HOP || doing === LEDGE_HOP || doing === WALL_HOP)
      ) {
        this.spend(3);
        this.air = 0;
        this.start(SECOND);
        this.vy = 8.5;
      }
    }
    if (pressed[UP] && this.doing === CLING) {
      this.stop();
      this.start(CLIMB_UP);
      this.x += this.facing * 0.5;
      this.y += 1.8;
      this.vx = this.vy = 0;
    }
    if (
      pressed[GALE] &&
      !this.grounded &&
      this.dashes > 0 &&
      this.wind >= 9 &&
      (this.doing === NONE || this.doing <= SECOND)
    ) {
      this.spend(9);
      this.dashes = 0;
      this.start(DASH);
    }
    if (this.doing !== NONE) return;
    if (pressed[DOWN] && this.grounded && Math.abs(this.vx) > 4 && this.wait[SLIDE] === 0) this.start(SLIDE);
    else if (held[CLIMB] && sx === this.facing && this.scrambles > 0 && this.rough()) {
      this.scrambles = 0;
      this.start(SCRAMBLE);
    } else if (held[UP] && this.wait[RUNGS] === 0 && this.touches(0.15, 0.15, 0.5, LADDER)) this.start(RUNGS);
    else if (
      !this.grounded &&
      this.vy < 0 &&
      this.wait[CLING] === 0 &&
      !held[DOWN] &&
      sx * this.facing >= 0 &&
      this.ledge()
    )
      this.start(CLING);
    else if (held[HOOK_KEY] && this.wait[HOOK] === 0 && this.aimHits()) this.start(HOOK);
    else if (held[SWING_KEY] && this.wait[SWING] === 0 && this.aimHits()) this.start(SWING);
    else if (pressed[TIDE_KEY] && this.oil >= 6 && this.wait[TIDE] === 0 && this.blink()) {
      this.oil -= 6;
      this.wait[TIDE] = 34;
      this.start(TIDE);
    } else if (pressed[HOME] && this.grounded && this.moored) this.start(CAST);
  }

  private move(sx: number): void {
    const { held, doing } = this;
    this.low = doing === SLIDE || (this.grounded && (held[DOWN] === 1 || (this.low && this.blocked())));
    let gravity = 25;
    let fall = 18;
    let speed = 5;
    let accel = this.grounded ? 60 : 30;
    let brake = this.grounded ? 80 : 15;
    let steers = true;
    const sprints = this.grounded && held[SPRINT] === 1 && sx !== 0 && this.wind > 0 && doing === NONE && !this.low;
    if (sprints) {
      speed *= 1.6;
      this.wind = Math.max(0, this.wind - 4 * DT);
      this.rest = 36;
    }
    if (this.low && doing !== SLIDE) speed *= 0.4;
    switch (doing) {
      case DASH:
        gravity = 0;
        steers = false;
        this.vx = 18 * (sx || this.facing);
        this.vy = 0;
        break;
      case SLIDE:
        steers = false;
        this.vx = 8 * this.facing;
        break;
      case CLING:
        gravity = 0;
        steers = false;
        this.vx = this.vy = 0;
        break;
      case CLIMB_UP:
      case CAST:
        steers = false;
        break;
      case WALL_HOP:
        steers = false;
        this.vx = 6 * this.facing;
        this.vy = 8.5;
        break;
      case SCRAMBLE:
        gravity = 0;
        steers = false;
        this.vy = 7;
        break;
      case RUNGS: {
        gravity = 0;
        const sy = held[UP] - held[DOWN];
        const length = Math.sqrt(sx * sx + sy * sy) || 1;
        this.vx = (3 * sx) / length;
        this.vy = (3 * sy) / length;
        steers = false;
        break;
      }
      case TIDE:
        gravity = 0;
        steers = false;
        break;
      case HOOK: {
        gravity = 0;
        steers = false;
        if (this.time < 3) break;
        const length = this.distance();
        this.vx = (14 * (this.hookX - this.x)) / length + 0.3 * speed * sx;
        this.vy = (14 * (this.hookY - this.y - 0.9)) / length;
        break;
      }
      case SWING: {
        accel = 12;
        brake = 0;
        const length = this.distance();
        const pull = Math.max(0, length - 4) * 200 * DT;
        this.vx += (pull * (this.hookX - this.x)) / length;
        this.vy += (pull * (this.hookY - this.y - 0.9)) / length;
        break;
      }
    }
    if (!this.grounded && this.vy < 0 && doing === NONE && sx === this.facing && this.ahead(0.9, null)) fall = 3;
    if (steers) {
      const want = sx * speed;
      const onward = want * this.vx;
      const slows = onward <= 0 ? this.vx !== 0 : Math.abs(this.vx) > Math.abs(want);
      const step = (slows ? brake : accel) * DT;
      this.vx = Math.max(this.vx - step, Math.min(this.vx + step, want));
    }
    this.vy = Math.max(this.vy - gravity * DT, -fall);
    this.slide();
  }

  /** Along x, then along y; what stops it takes the velocity away. */
  private slide(): void {
    const { cast, hit, world } = this;
    cast.passes = this.doing === DROP ? PLANKS : null;
    this.atWall = false;
    if (this.vx !== 0) {
      this.place(this.vx * DT, 0);
      const stopped = world.sweep(cast, hit);
      this.x += cast.dx * (stopped ? hit.part : 1);
      if (stopped) {
        this.vx = 0;
        this.atWall = true;
      }
    }
    const stood = this.grounded;
    this.grounded = false;
    if (this.vy === 0) return;
    this.place(0, this.vy * DT);
    const stopped = world.sweep(cast, hit);
    this.y += cast.dy * (stopped ? hit.part : 1);
    if (!stopped) {
      if (!stood || this.vy > 0) return;
      this.place(0, -0.02);
      this.grounded = world.sweep(cast, hit);
      return;
    }
    if (this.vy < 0) {
      this.grounded = true;
      if (!Number.isNaN(hit.height)) this.y = hit.height;
    }
    this.vy = 0;
    cast.passes = null;
  }

  private place(dx: number, dy: number): void {
    const { cast } = this;
    cast.surfaces = null;
    cast.hx = cast.hz = 0.3;
    cast.hy = this.low ? 0.45 : 0.9;
    cast.x = this.x;
    cast.y = this.y + cast.hy;
    cast.z = 0;
    cast.dx = dx;
    cast.dy = dy;
    cast.dz = 0;
  }

  private ahead(height: number, surfaces: readonly string[] | null): boolean {
    return this.ray(0, height, 0.45 * this.facing, 0, surfaces);
  }

  private ray(ahead: number, up: number, dx: number, dy: number, surfaces: readonly string[] | null): boolean {
    const { cast } = this;
    cast.surfaces = surfaces;
    cast.passes = null;
    cast.hx = cast.hy = cast.hz = 0;
    cast.x = this.x + ahead * this.facing;
    cast.y = this.y + up;
    cast.z = 0;
    cast.dx = dx;
    cast.dy = dy;
    cast.dz = 0;
    return this.world.ray(cast, this.hit);
  }

  private touches(hx: number, hy: number, up: number, surfaces: readonly string[] | null, ahead = 0): boolean {
    const { cast } = this;
    cast.surfaces = surfaces;
    cast.passes = null;
    cast.hx = cast.hz = hx;
    cast.hy = hy;
    cast.x = this.x + ahead * this.facing;
    cast.y = this.y + up;
    cast.z = 0;
    return this.world.overlap(cast);
  }

  private rough(): boolean {
    return this.ahead(1.6, ROUGH) || this.ahead(0.1, ROUGH);
  }

  private ledge(): boolean {
    if (!this.ahead(1.5, null)) return false;
    const to = this.hit.part * 0.45 - 0.3;
    if (!this.ray(0.45, 2.1, 0, -0.5, null)) return false;
    const top = this.y + 2.1 - 0.5 * this.hit.part;
    if (this.touches(0.1, 0.15, 2.3, null, 0.4)) return false;
    this.x += to * this.facing;
    this.y = top - 1.8;
    this.vx = this.vy = 0;
    return true;
  }

  private onPlanks(): boolean {
    this.place(0, -0.05);
    return this.world.sweep(this.cast, this.hit) && this.hit.tags.includes('oneWay');
  }

  private blocked(): boolean {
    return this.touches(0.3, 0.9, 0.9, null);
  }

  private aimHits(): boolean {
    const { cast, hit } = this;
    if (!this.ray(0, 0.9, this.aimX * 9, this.aimY * 9, null)) return false;
    this.hookX = cast.x + cast.dx * hit.part;
    this.hookY = cast.y + cast.dy * hit.part;
    this.hooked = true;
    return true;
  }

  private distance(): number {
    const dx = this.hookX - this.x;
    const dy = this.hookY - this.y - 0.9;
    return this.hooked ? Math.sqrt(dx * dx + dy * dy) : 0;
  }

  /** As far as there is room, and behind a wall of at most 0.6, but not out of the yard. */
  private blink(): boolean {
    const { cast, hit, world } = this;
    this.place(this.aimX * 5, this.aimY * 5);
    cast.passes = null;
    let way = world.sweep(cast, hit) ? hit.part * 5 : 5;
    if (way < 5) {
      for (let at = way + 0.05; at < Math.min(5, way + 1.2); at += 0.05) {
        this.place(0, 0);
        cast.x += this.aimX * at;
        cast.y += this.aimY * at;
        if (world.overlap(cast)) continue;
        way = at;
        break;
      }
    }
    if (way < 0.01) return false;
    const x = this.x + this.aimX * way;
    if (x < 0.3 || x > world.width - 0.3 || this.y + this.aimY * way < 0) return false;
    this.x = x;
    this.y += this.aimY * way;
    return true;
  }

  private touchPost(): void {
    const touches = this.touches(0.2, 0.2, 0.5, POST);
    if (touches && !this.atPost) {
      this.moored = true;
      this.mooredX = this.x;
      this.mooredY = this.y;
    }
    this.atPost = touches;
  }

  private spend(wind: number): void {
    this.wind -= wind;
    this.rest = 36;
  }
}

export const LEFT = 0;
export const RIGHT = 1;
export const UP = 2;
export const DOWN = 3;
export const JUMP = 4;
export const GALE = 5;
export const SPRINT = 6;
export const CLIMB = 7;
export const HOOK_KEY = 8;
export const SWING_KEY = 9;
export const TIDE_KEY = 10;
export const HOME = 11;
