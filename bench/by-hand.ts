export type Key = 'left' | 'right' | 'up' | 'down' | 'jump' | 'gale' | 'sprint' | 'lock';

/**
 * Pell's demo controller as a careful programmer writes it by hand: the same behaviour as
 * demo/boatyard/pell-basics.yaml on flat ground, tick for tick (a test holds the two side by side). No low ceilings and no walls.
 */
export class ByHand {
  x = 0.1;
  y = 0;
  vx = 0.1;
  vy = 0;
  facing = 1;
  grounded = true;
  wind = 24;
  stance: 'duck' | 'stride' | 'stand' | 'rise' | 'fall' = 'stand';
  body: 'none' | 'hop' | 'secondHop' | 'galeDash' = 'none';
  sprinting = false;
  private left = false;
  private right = false;
  private up = false;
  private down = false;
  private jump = false;
  private jumpPressed = false;
  private galePressed = false;
  private sprint = false;
  private lockPressed = false;

  private tickCount = -1;
  private lastDirection = 0;
  private latched = false;
  private stanceSince = 0;
  private jumpPressedAt = -1e9;
  private floorAt = -1e9;
  private phase: 'lift' | 'rise' | 'cut' = 'lift';
  private phaseSince = 0;
  private hasSecondHop = true;
  private hasDash = true;
  private dashX = 0.1;
  private dashY = 0.1;
  private restUntil = 0;
  private landedNow = false;
  private landsNext = false;
  private dry = false;

  /** A key goes down or up, before a tick. */
  key(key: Key, down: boolean): void {
    switch (key) {
      case 'left':
        this.left = down;
        if (down) this.lastDirection = -1; // of two that are held, the last one counts
        break;
      case 'right':
        this.right = down;
        if (down) this.lastDirection = 1;
        break;
      case 'jump':
        this.jump = down;
        if (down) this.jumpPressed = true;
        break;
      case 'gale':
        if (down) this.galePressed = true;
        break;
      case 'lock':
        if (down) this.lockPressed = true;
        break;
      default:
        this[key] = down;
    }
  }

  tick(): void {
    const dt = 1 / 60;
    const t = ++this.tickCount;
    this.landedNow = this.landsNext;
    this.landsNext = false;

    let sx = 0;
    if (this.left && this.right) sx = this.lastDirection;
    else if (this.left) sx = -1;
    else if (this.right) sx = 1;
    let sy = 0;
    if (this.up !== this.down) sy = this.up ? 1 : -1;
    const length = Math.sqrt(sx * sx + sy * sy);
    if (length > 1) {
      sx /= length;
      sy /= length;
    }
    const pushed = length > 0;
    if (this.jumpPressed) this.jumpPressedAt = t;
    if (this.lockPressed) this.latched = !this.latched;

    if (this.sprinting) this.wind -= 4 / 60;
    else if (t > this.restUntil) this.wind += 1.5 / 60;
    if (this.wind > 24) this.wind = 24;
    if (this.wind < 0) this.wind = 0;

    if (this.grounded) {
      this.hasSecondHop = true;
      this.hasDash = true;
    }
    if (this.body === 'galeDash') {
      if (t >= this.phaseSince + 12) this.endDash();
    } else if (this.body !== 'none' && this.phase !== 'rise' && t >= this.phaseSince + 1) this.nextHopPhase(t);

    this.deriveStance(t);
    if (this.latched && this.stance === 'stand' && t - this.stanceSince >= 30) this.latched = false;

    if (this.body === 'galeDash' && this.landedNow) this.endDash();
    else if ((this.body === 'hop' || this.body === 'secondHop') && this.phase === 'rise') {
      if (this.vy <= 0 || !this.jump) this.nextHopPhase(t);
    }
    if (this.sprinting) {
      const dry = this.wind <= 1e-9;
      if (dry) this.dry = true;
      if (!pushed || this.stance === 'duck' || dry || !(this.sprint || this.latched)) {
        this.sprinting = false;
        this.restUntil = t + 36;
      }
    }
    const onFloor = this.stance === 'stand' || this.stance === 'stride' || this.stance === 'duck';
    if (onFloor) this.floorAt = t;

    if ((this.sprint || this.latched) && !this.sprinting && onFloor && pushed) {
      if (this.dry ? this.wind + 1e-9 >= 6 : this.wind > 1e-9) {
        this.dry = false;
        this.sprinting = true;
      }
    }
    if (t - this.jumpPressedAt <= 6) {
      const free = this.body === 'none';
      if (free && t - this.floorAt <= 6 && this.wind + 1e-9 >= 3) this.startHop('hop', t);
      else if ((free || this.body === 'hop') && !onFloor && this.hasSecondHop && this.wind + 1e-9 >= 3) {
        this.hasSecondHop = false;
        this.startHop('secondHop', t);
      }
    }
    if (this.galePressed && this.body !== 'galeDash' && !onFloor && this.hasDash && this.wind + 1e-9 >= 9) {
      this.body = 'galeDash';
      this.phaseSince = t;
      this.hasDash = false;
      this.wind -= 9;
      this.restUntil = t + 36;
      this.floorAt = -1e9;
      this.dashX = 18 * (pushed ? sx : this.facing);
      this.dashY = 18 * (pushed ? sy : 0);
    }

    this.jumpPressed = false;
    this.lockPressed = false;
    this.galePressed = false;
    this.move(sx, sy, dt);
  }

  private deriveStance(t: number): void {
    const next = this.grounded
      ? this.down
        ? 'duck'
        : this.vx * this.vx > 0.0025
          ? 'stride'
          : 'stand'
      : this.vy > 0
        ? 'rise'
        : 'fall';
    if (next === this.stance) return;
    this.stance = next;
    this.stanceSince = t;
  }

  private startHop(body: 'hop' | 'secondHop', t: number): void {
    this.body = body;
    this.phase = 'lift';
    this.phaseSince = t;
    this.wind -= 3;
    this.restUntil = t + 36;
    this.jumpPressedAt = -1e9;
    this.floorAt = -1e9;
  }

  private nextHopPhase(t: number): void {
    if (this.phase === 'lift') this.phase = 'rise';
    else if (this.phase === 'rise' && this.vy > 0) {
      this.phase = 'cut';
      this.vy *= 0.45;
    } else this.body = 'none';
    this.phaseSince = t;
  }

  private endDash(): void {
    this.body = 'none';
    this.vx *= 0.4;
    this.vy *= 0.4;
  }

  private move(sx: number, sy: number, dt: number): void {
    const dashing = this.body === 'galeDash';
    const target = sx === 0 ? 0 : (sx * Math.sqrt(sx * sx + sy * sy)) / Math.max(Math.abs(sx), Math.abs(sy));
    if (target !== 0 && !dashing) this.facing = target > 0 ? 1 : -1;
    if (!dashing) {
      let pace = 5;
      if (this.stance === 'duck') pace *= 0.4;
      if (this.sprinting) pace *= 1.6;
      const wanted = target * pace;
      const flying = this.stance === 'rise' || this.stance === 'fall';
      const onward = wanted * this.vx;
      const brakes = onward <= 0 ? this.vx !== 0 : this.vx * this.vx > wanted * wanted;
      const step = (brakes ? (flying ? 15 : 80) : flying ? 30 : 60) * dt;
      const missing = wanted - this.vx;
      if (Math.abs(missing) <= step) this.vx = wanted;
      else this.vx += missing > 0 ? step : -step;
      this.vy -= 25 * dt;
      if (this.vy < -18) this.vy = -18;
      if (this.body !== 'none' && this.phase === 'lift') this.vy = this.body === 'hop' ? 9.5 : 8.5;
    } else {
      this.vx = this.dashX;
      this.vy = this.dashY;
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
