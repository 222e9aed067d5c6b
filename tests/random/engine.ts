import type { Character } from '../../src/index.js';

/** How far below the feet ground still carries: the engine does as Loggia's own mover. */
const REACH = 0.02;

/** An engine that moves one body over level ground at height 1, by nothing but what `drive` says. */
export class Engine {
  x = 2.5;
  y = 1;
  z = 0;
  vx = 0;
  vy = 0;
  vz = 0;
  grounded = true;

  constructor(private readonly dt: number) {}

  step({ readout: { drive } }: Character): void {
    if (drive.stopped) return;
    const { dt } = this;
    this.vx = drive.vx;
    this.vz = drive.vz;
    this.vy = drive.holdsUpright ? drive.vy : Math.max(drive.vy - drive.gravity * dt, -drive.fall);
    const dy = this.vy * dt;
    const half = drive.height / 2;
    const gap = this.y + half - half - 1;
    const part = dy < 0 ? (gap > 0 ? gap / -dy : 0) : 2;
    if (part <= 1) {
      this.x += this.vx * dt * part;
      this.z += this.vz * dt * part;
      this.x += this.vx * dt * (1 - part);
      this.z += this.vz * dt * (1 - part);
      this.y = 1;
      this.vy = 0;
      this.grounded = true;
      return;
    }
    this.x += this.vx * dt;
    this.y += dy;
    this.z += this.vz * dt;
    this.grounded = dy <= 0 && this.grounded && (this.y + half - half - 1) / REACH <= 1;
  }
}
