export type FightKey = 'left' | 'right' | 'jump' | 'gale' | 'sprint' | 'gaff' | 'brace' | 'flare';

type Body = 'none' | 'hop' | 'secondHop' | 'dash' | 'jab' | 'sweep' | 'heave' | 'brace' | 'flare';

/**
 * The fighter of bench/yard-fight.yaml as a careful programmer writes it by hand, for level ground: the same behaviour,
 * tick for tick; a test holds the two side by side.
 */
export class YardFight {
  x = 0;
  y = 0;
  vx = 0;
  vy = 0;
  facing = 1;
  grounded = true;
  wind = 24;
  oil = 40;
  stance: 'run' | 'stand' | 'rise' | 'fall' = 'stand';
  body: Body = 'none';
  sprinting = false;
  power = 0;
  private left = false;
  private right = false;
  private sprint = false;
  private braceHeld = false;
  private flareHeld = false;
  private lastDirection = 0;
  private jumpAt = -1e9;
  private gaffAt = -1e9;
  private galeNow = false;
  private flareNow = false;
  private sprintNow = false;
  private braceNow = false;

  private time = -1;
  private phase = 0;
  private phaseSince = 0;
  private floorAt = -1e9;
  private dashReady = -1e9;
  private heaveReady = -1e9;
  private flareReady = -1e9;
  private hasSecondHop = true;
  private hasDash = true;
  private restUntil = 0;
  private dry = false;
  private landedNow = false;
  private landsNext = false;

  /** A key goes down or up, before a tick. */
  key(key: FightKey, down: boolean): void {
    switch (key) {
      case 'left':
        this.left = down;
        if (down) this.lastDirection = -1;
        break;
      case 'right':
        this.right = down;
        if (down) this.lastDirection = 1;
        break;
      case 'jump':
        if (down) this.jumpAt = this.time + 1;
        break;
      case 'gale':
        this.galeNow = this.galeNow || down;
        break;
      case 'sprint':
        this.sprint = down;
        this.sprintNow = this.sprintNow || down;
        break;
      case 'gaff':
        if (down) this.gaffAt = this.time + 1;
        break;
      case 'brace':
        this.braceHeld = down;
        this.braceNow = this.braceNow || down;
        break;
      case 'flare':
        this.flareHeld = down;
        this.flareNow = this.flareNow || down;
        break;
    }
  }

  tick(): void {
    const t = ++this.time;
    this.landedNow = this.landsNext;
    this.landsNext = false;
    const direction = this.left && this.right ? this.lastDirection : this.left ? -1 : this.right ? 1 : 0;

    const drain = (this.sprinting ? 4 : 0) + (this.body === 'brace' ? 3 : 0);
    if (drain > 0) this.wind = Math.max(0, this.wind - drain / 60);
    else if (t > this.restUntil) this.wind = Math.min(24, this.wind + 6 / 60);
    if (this.wind < 1e-9) this.wind = 0;
    this.oil = Math.min(40, this.oil + 2 / 60);

    this.endDuePhase(t);
    if (this.grounded) {
      this.hasSecondHop = true;
      this.hasDash = true;
    }
    if (this.grounded) this.stance = this.vx * this.vx > 0.0025 ? 'run' : 'stand';
    else this.stance = this.vy > 0 ? 'rise' : 'fall';
    this.checkEndings(t, direction);
    const { grounded } = this;
    if (grounded && this.body !== 'hop' && this.body !== 'secondHop') this.floorAt = t;
    this.requests(t, direction);
    this.galeNow = false;
    this.flareNow = false;
    this.sprintNow = false;
    this.braceNow = false;
    this.move(direction);
  }

  private endDuePhase(t: number): void {
    const passed = t - this.phaseSince;
    switch (this.body) {
      case 'hop':
      case 'secondHop':
        if (this.phase === 0 && passed >= 1) this.nextPhase(t);
        break;
      case 'dash':
        if (passed >= 12) this.endDash(t);
        break;
      case 'jab':
        if (passed >= (this.phase === 2 ? 10 : 4)) this.nextStep(t, 2);
        break;
      case 'sweep':
        if (passed >= (this.phase === 0 ? 6 : this.phase === 1 ? 4 : 12)) this.nextStep(t, 2);
        break;
      case 'heave':
        if (passed >= (this.phase === 0 ? 8 : this.phase === 1 ? 5 : 16)) this.nextStep(t, 2);
        break;
      case 'flare':
        if (this.phase === 1 && passed >= 12) this.end(t);
        break;
    }
  }

  private nextPhase(t: number): void {
    this.phase++;
    this.phaseSince = t;
  }

  private nextStep(t: number, last: number): void {
    if (this.phase === last) this.end(t);
    else this.nextPhase(t);
  }

  private end(t: number): void {
    if (this.body === 'heave') this.heaveReady = t + 24;
    else if (this.body === 'flare') this.flareReady = t + 60;
    else if (this.body === 'brace') this.restUntil = this.sprinting ? this.restUntil : t + 30;
    this.body = 'none';
  }

  private endDash(t: number): void {
    this.vx *= 0.4;
    this.vy *= 0.4;
    this.dashReady = t + 30;
    this.body = 'none';
  }

  private checkEndings(t: number, direction: number): void {
    if (this.body === 'dash' && this.landedNow) this.endDash(t);
    else if ((this.body === 'hop' || this.body === 'secondHop') && this.phase === 1 && this.vy <= 0) this.end(t);
    else if (this.body === 'brace' && (this.wind <= 0 || !this.braceHeld)) this.end(t);
    else if (this.body === 'flare' && this.phase === 0) {
      this.power = Math.min(1, (t - this.phaseSince) / 36);
      if (!this.flareHeld) {
        if (this.oil + 1e-9 >= 8) {
          this.oil -= 8;
          this.nextPhase(t);
        } else this.end(t);
      }
    }
    if (!this.sprinting) return;
    const out = this.wind <= 0;
    if (direction !== 0 && out) this.dry = true;
    if (direction !== 0 && !out && this.sprint) return;
    this.sprinting = false;
    if (this.body !== 'brace') this.restUntil = t + 30;
  }

  private requests(t: number, direction: number): void {
    const floor = this.grounded;
    if ((this.sprint || this.sprintNow) && !this.sprinting && floor && direction !== 0)
      if (this.dry ? this.wind + 1e-9 >= 6 : this.wind > 0) {
        this.dry = false;
        this.sprinting = true;
      }
    if (t - this.jumpAt <= 6) this.requestJump(t, floor);
    if (this.galeNow && !floor && this.hasDash && t >= this.dashReady && this.wind + 1e-9 >= 6)
      if (this.body === 'none' || this.body === 'hop' || this.body === 'secondHop') {
        this.start('dash', t);
        this.spendWind(6, t);
        this.hasDash = false;
        if (direction !== 0) this.facing = direction;
      }
    if (t - this.gaffAt <= 9 && floor) this.requestSwing(t);
    if ((this.braceHeld || this.braceNow) && this.body === 'none' && floor && this.wind > 0) this.start('brace', t);
    if (this.flareNow && this.body === 'none' && floor && t >= this.flareReady && this.oil + 1e-9 >= 8) {
      this.start('flare', t);
      this.power = 0;
    }
  }

  private requestJump(t: number, floor: boolean): void {
    if (this.wind + 1e-9 < 2) return;
    const open = this.body === 'none' || (this.body === 'jab' && this.phase === 2);
    if (open && t - this.floorAt <= 6) {
      if (this.body === 'jab') this.end(t);
      this.start('hop', t);
    } else if (!floor && this.hasSecondHop && (this.body === 'none' || this.body === 'hop')) {
      this.hasSecondHop = false;
      this.start('secondHop', t);
    } else return;
    this.spendWind(2, t);
    this.jumpAt = -1e9;
  }

  private requestSwing(t: number): void {
    if (this.body === 'none') this.start('jab', t);
    else if (this.body === 'jab' && this.phase === 2) {
      this.end(t);
      this.start('sweep', t);
    } else if (this.body === 'sweep' && this.phase === 2 && t >= this.heaveReady) {
      this.end(t);
      this.start('heave', t);
    } else return;
    this.gaffAt = -1e9;
  }

  private start(body: Body, t: number): void {
    this.body = body;
    this.phase = 0;
    this.phaseSince = t;
    this.floorAt = -1e9;
  }

  private spendWind(amount: number, t: number): void {
    this.wind -= amount;
    this.restUntil = t + 30;
  }

  private move(direction: number): void {
    const dt = 1 / 60;
    if (direction !== 0) this.facing = direction;
    const { body } = this;
    if (body === 'dash') {
      this.vx = this.time === this.phaseSince ? 16 * this.facing : this.vx;
      this.vy = 0;
    } else {
      const steers = body !== 'jab' && body !== 'sweep' && body !== 'heave' && body !== 'flare';
      const wanted = steers ? direction * 5 * (this.sprinting ? 1.6 : 1) * (body === 'brace' ? 0.4 : 1) : 0;
      const flying = this.stance === 'rise' || this.stance === 'fall';
      const onward = wanted * this.vx;
      const brakes = onward <= 0 ? this.vx !== 0 : this.vx * this.vx > wanted * wanted;
      const step = (brakes ? (flying ? 15 : 80) : flying ? 30 : 60) * dt;
      const missing = wanted - this.vx;
      if (Math.abs(missing) <= step) this.vx = wanted;
      else this.vx += missing > 0 ? step : -step;
      this.vy = Math.max(this.vy - 25 * dt, -18);
      if (this.phase === 0 && body === 'hop') this.vy = 9.5;
      if (this.phase === 0 && body === 'secondHop') this.vy = 8.5;
    }
    this.x += this.vx * dt;
    this.y += this.vy * dt;
    const was = this.grounded;
    this.grounded = false;
    if (this.y <= 0 && this.vy <= 0) {
      this.y = 0;
      this.vy = 0;
      this.grounded = true;
      if (!was) this.landsNext = true;
    }
  }
}
