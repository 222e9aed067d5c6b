type Body = 'none' | 'flinch' | 'reel' | 'hold' | 'jab' | 'sweep';

const DT = 1 / 60;
const WIDE = 0.6;
const HIGH = 1.8;
/** Windup, active and recovery, and what each strike is worth. */
const MOVES = {
  jab: {
    windup: 5,
    active: 4,
    all: 19,
    x: 0.85,
    y: 1.15,
    hx: 0.55,
    hy: 0.25,
    damage: 4,
    stun: 15,
    stop: 4,
    px: 2.5,
    py: 0,
  },
  sweep: {
    windup: 7,
    active: 4,
    all: 25,
    x: 0.95,
    y: 0.45,
    hx: 0.7,
    hy: 0.25,
    damage: 5,
    stun: 19,
    stop: 5,
    px: 4,
    py: 2,
  },
} as const;

/** One of two who fight; see {@link Duel}. */
export class Duellist {
  vx = 0;
  vy = 0;
  y = 0;
  grounded = true;
  grit = 100_000;
  wind = 24;
  body: Body = 'none';
  bracing = false;
  left = false;
  right = false;
  brace = false;
  gaffAt = -1e9;
  private last = 0;
  time = -1;
  since = 0;
  braceSince = 0;
  private braceBroken = -1;
  bracePressed = -1e9;
  private rest = 0;
  stun = 0;
  /** What the last blow does once the clock goes on. */
  message: 'none' | 'struck' | 'guardBroken' | 'hitParried' | 'blocked' = 'none';
  private messageStun = 0;
  pushX = 0;
  pushY = 0;
  pushed = false;
  stopped = 0;
  hasHit = false;
  awake = true;

  constructor(
    public x: number,
    public facing: number,
  ) {}

  key(key: 'left' | 'right' | 'gaff' | 'brace', down: boolean): void {
    if (key === 'left') {
      this.left = down;
      if (down) this.last = -1;
    } else if (key === 'right') {
      this.right = down;
      if (down) this.last = 1;
    } else if (key === 'gaff') {
      if (down) this.gaffAt = this.time + 1;
    } else {
      this.brace = down;
      if (down) this.bracePressed = this.time + 1;
    }
  }

  tell(message: Duellist['message'], stun: number): void {
    // Of several in one tick, what ends the most goes first.
    if (this.message === 'struck' && message !== 'struck') return;
    this.message = message;
    this.messageStun = stun;
  }

  begin(): void {
    if (this.stopped > 0) {
      this.stopped--;
      this.awake = false;
      return;
    }
    this.awake = true;
    this.time++;
    if (this.pushed) {
      this.vx = this.pushX;
      if (this.pushY !== 0) this.vy = this.pushY;
      this.pushed = false;
      this.pushX = this.pushY = 0;
    }
    if (this.wind < 24 && this.time > this.rest) this.wind = Math.min(24, this.wind + 6 * DT);
    this.endWhatIsDue();
    this.hear();
    this.request();
  }

  private endWhatIsDue(): void {
    const passed = this.time - this.since;
    if (this.body === 'jab' || this.body === 'sweep') {
      if (passed >= MOVES[this.body].all) this.body = 'none';
    } else if (this.body !== 'none' && passed >= this.stun) this.body = 'none';
    if (this.bracing && !this.brace) this.bracing = false;
  }

  private hear(): void {
    const { message } = this;
    if (message === 'none') return;
    this.message = 'none';
    if (message === 'blocked') {
      if (this.body === 'flinch' || this.body === 'reel') return;
      this.body = 'hold';
    } else {
      this.body = message === 'struck' ? 'flinch' : 'reel';
      if (this.bracing) this.braceBroken = this.time;
      this.bracing = false;
    }
    this.since = this.time;
    this.stun = this.messageStun;
  }

  private request(): void {
    const stunned = this.body === 'flinch' || this.body === 'reel';
    const attacks = this.body === 'jab' || this.body === 'sweep';
    const wants = this.time - this.gaffAt <= 6;
    if (wants && this.grounded && !stunned && this.body !== 'hold') {
      const inRecovery = this.body === 'jab' && this.time - this.since >= 9;
      if (this.body === 'none' || inRecovery) {
        this.turn();
        this.body = inRecovery ? 'sweep' : 'jab';
        this.since = this.time;
        this.hasHit = false;
        this.gaffAt = -1e9;
        return;
      }
    }
    if (this.brace && !this.bracing && !stunned && !attacks && this.grounded && this.bracePressed > this.braceBroken) {
      this.turn();
      this.bracing = true;
      this.braceSince = this.time;
    }
  }

  private get direction(): number {
    if (this.left && this.right) return this.last;
    return this.left ? -1 : this.right ? 1 : 0;
  }

  private turn(): void {
    if (this.bracing || this.body === 'jab' || this.body === 'sweep') return;
    if (this.direction !== 0) this.facing = this.direction;
  }

  move(low: number, high: number): void {
    this.turn();
    const { body } = this;
    const attacks = body === 'jab' || body === 'sweep';
    let speed = 5;
    let brake = this.grounded ? 80 : 15;
    if (body === 'flinch' || body === 'reel') {
      speed = 0;
      brake = 12;
    } else if (body === 'hold') {
      speed = 0;
      brake = 30;
    } else if (this.bracing) speed = 5 * 0.35;
    if (body === 'sweep' && this.time - this.since < 7) this.vx = 4 * this.facing;
    else {
      const want = attacks ? 0 : this.direction * speed;
      const brakes = want * this.vx <= 0 ? this.vx !== 0 : Math.abs(this.vx) > Math.abs(want);
      const step = (brakes ? brake : this.grounded ? 60 : 30) * DT;
      const away = want - this.vx;
      this.vx = away > step ? this.vx + step : away < -step ? this.vx - step : want;
    }
    if (!this.grounded || this.vy > 0) this.vy = Math.max(this.vy - 25 * DT, -18);
    this.x += this.vx * DT;
    if (this.x < low || this.x > high) {
      this.x = Math.max(low, Math.min(high, this.x));
      this.vx = 0;
    }
    this.y += this.vy * DT;
    this.grounded = this.y <= 0;
    if (this.grounded) {
      this.y = 0;
      this.vy = 0;
    }
  }

  /** Whether its strike meets the other one now. */
  meets(other: Duellist): boolean {
    if (!this.awake || this.hasHit || (this.body !== 'jab' && this.body !== 'sweep')) return false;
    const move = MOVES[this.body];
    const passed = this.time - this.since;
    if (passed < move.windup || passed >= move.windup + move.active) return false;
    return (
      Math.abs(this.x + move.x * this.facing - other.x) < move.hx + WIDE / 2 - 1e-6 &&
      Math.abs(this.y + move.y - (other.y + HIGH / 2)) < move.hy + HIGH / 2 - 1e-6
    );
  }

  /** Takes a blow of the other one. Says whether it was parried. */
  take(from: Duellist, { damage, stun, stop, px, py }: (typeof MOVES)['jab' | 'sweep']): boolean {
    this.stopped = Math.max(this.stopped, stop);
    from.stopped = Math.max(from.stopped, stop);
    const away = from.x - this.x;
    const guards = this.bracing && away * this.facing >= 0.2588 * Math.abs(away);
    if (guards && this.time - this.braceSince < 6) return true;
    let share = 1;
    if (!guards) this.tell('struck', stun);
    else if (this.wind < damage) {
      this.wind = 0;
      this.rest = this.time + 30;
      this.tell('guardBroken', 60);
    } else {
      this.wind -= damage;
      this.rest = this.time + 30;
      this.tell('blocked', 10);
      share = 0.6;
    }
    if (share === 1) this.grit -= damage;
    this.pushX += px * from.facing * share;
    this.pushY += py * share;
    this.pushed = true;
    return false;
  }
}

/** The duel of bench/duel.yaml as a careful programmer writes it by hand, between two walls: about the same play, and no more than that. */
export class Duel {
  readonly one: Duellist;
  readonly two: Duellist;
  blows = 0;

  constructor(
    private readonly low: number,
    private readonly high: number,
  ) {
    this.one = new Duellist(low + 1, 1);
    this.two = new Duellist(high - 1, -1);
  }

  tick(): void {
    const { one, two, low, high } = this;
    one.begin();
    two.begin();
    if (one.awake) one.move(low, high);
    if (two.awake) two.move(low, high);
    this.separate();
    const first = one.meets(two);
    const second = two.meets(one);
    if (first) this.strike(one, two);
    if (second) this.strike(two, one);
  }

  private strike(by: Duellist, to: Duellist): void {
    this.blows++;
    by.hasHit = true;
    if (to.take(by, MOVES[by.body as 'jab' | 'sweep'])) by.tell('hitParried', 34);
  }

  private separate(): void {
    const { one, two, low, high } = this;
    const away = two.x - one.x;
    const over = WIDE - Math.abs(away);
    if (over <= 1e-6 || Math.abs(one.y - two.y) >= HIGH) return;
    const sign = away < 0 ? -1 : 1;
    const share = one.awake === two.awake ? 0.5 : one.awake ? 1 : 0;
    one.x = Math.max(low, Math.min(high, one.x - sign * over * share));
    const left = WIDE - Math.abs(two.x - one.x);
    two.x = Math.max(low, Math.min(high, two.x + sign * left));
    const still = WIDE - Math.abs(two.x - one.x);
    if (still > 1e-6) one.x = Math.max(low, Math.min(high, one.x - sign * still));
  }
}
