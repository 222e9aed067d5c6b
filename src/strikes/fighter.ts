import type { Plan } from '../compile/plan.js';
import type { Frame } from '../record/frame.js';
import { SHAPE } from '../record/slots.js';
import { placeBody, placeVolume, Volume } from './volume.js';

/** What strikes see of who is in an arena. */
export interface Fighter {
  /** @internal */
  readonly c: Frame & { readonly plan: Plan };
  readonly id: number;
  /** @internal Equal for those who are on one side. */
  readonly team: number;
  readonly tags: readonly string[];
  /** @internal Its own clock goes on in this tick. */
  awake: boolean;
  /** @internal Where it can be struck. */
  readonly hurts: Hurts;
  /** @internal How far its body has moved in this tick, once all have. */
  readonly way: Float64Array;
}

/** The hurt volumes of one fighter, placed when they are first asked for in a tick. */
export class Hurts {
  readonly volumes: Volume[] = [];
  count = 0;
  /** The box around all of them. */
  readonly around = new Volume();
  private placed = false;

  forget(): void {
    this.placed = false;
  }

  /** @internal */
  place({ r, plan }: Fighter['c']): void {
    if (this.placed) return;
    this.placed = true;
    const shape = r[SHAPE];
    const declared = plan.hurt?.volumes[shape] ?? null;
    // Who cannot be struck can be touched all the same.
    this.count = declared?.length ?? 1;
    while (this.volumes.length < this.count) this.volumes.push(new Volume());
    if (declared === null) {
      const { hx, hy, hz } = plan.shapes[shape];
      placeBody(this.volumes[0], hx, hy, hz, r);
    } else for (let i = 0; i < declared.length; i++) placeVolume(this.volumes[i], declared[i], r);
    this.surround();
  }

  private surround(): void {
    const { around, volumes, count } = this;
    around.x0 = around.y0 = around.z0 = Number.POSITIVE_INFINITY;
    around.x1 = around.y1 = around.z1 = Number.NEGATIVE_INFINITY;
    for (let i = 0; i < count; i++) {
      const v = volumes[i];
      around.x0 = Math.min(around.x0, v.x0);
      around.y0 = Math.min(around.y0, v.y0);
      around.z0 = Math.min(around.z0, v.z0);
      around.x1 = Math.max(around.x1, v.x1);
      around.y1 = Math.max(around.y1, v.y1);
      around.z1 = Math.max(around.z1, v.z1);
    }
  }
}
