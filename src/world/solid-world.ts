import { counts, isNear, overlapsSolid, Search, type Solid, TOUCH } from './solid.js';
import type { Cast, Hit, Room, World } from './world.js';

const search = new Search();

/** What tile and box worlds share: questions about solids, of which each world knows how to find those nearby. */
export abstract class SolidWorld implements World {
  readonly still = true;

  /** Calls `look` with solids near the way of `cast`, at least all that it can touch, until it answers true. */
  protected abstract some(cast: Cast, look: (cast: Cast, solid: Solid) => boolean): boolean;
  abstract roomAround(cast: Cast, room: Room): boolean;

  /**
   * A ray that runs exactly along a seam between two solids is stopped by them, one along the face of a solid is not:
   * what lies on both sides of it counts.
   */
  ray(cast: Cast, hit: Hit): boolean {
    const found = this.search(cast, hit, offerSolid, chooseSolid);
    if (!search.grazes) return found;
    const nearest = found ? hit.part : 2;
    const { x, y, z, dx, dy } = cast;
    const alongX = dx === 0;
    const alongY = dy === 0;
    let part = -1;
    let which = 0;
    for (let side = 0; side < 4; side++) {
      nudge(cast, alongX, alongY, side);
      const stopped = this.search(cast, hit, offerSolid, chooseSolid);
      if (!stopped) part = 2;
      else if (hit.part > part) {
        part = hit.part;
        which = side;
      }
      cast.x = x;
      cast.y = y;
      cast.z = z;
    }
    if (part < nearest) {
      nudge(cast, alongX, alongY, which);
      this.search(cast, hit, offerSolid, chooseSolid);
      cast.x = x;
      cast.y = y;
      cast.z = z;
      return true;
    }
    return this.search(cast, hit, offerSolid, chooseSolid);
  }

  sweep(cast: Cast, hit: Hit): boolean {
    return this.search(cast, hit, offerAny, chooseAny);
  }

  overlap(cast: Cast): boolean {
    cast.dx = 0;
    cast.dy = 0;
    cast.dz = 0;
    return this.some(cast, overlaps);
  }

  private search(cast: Cast, hit: Hit, offer: typeof offerAny, choose: typeof chooseAny): boolean {
    search.begin();
    this.some(cast, offer);
    if (!search.found) return false;
    this.some(cast, choose);
    search.write(cast, hit);
    return true;
  }
}

/** Moves a ray off a seam, to one of the four sides of its way. */
function nudge(cast: Cast, alongX: boolean, alongY: boolean, side: number): void {
  const first = (side & 1) === 0 ? 2 * TOUCH : -2 * TOUCH;
  const second = (side & 2) === 0 ? 2 * TOUCH : -2 * TOUCH;
  if (alongY) cast.y += first;
  else if (alongX) cast.x += first;
  if (alongX && alongY) cast.x += second;
  else cast.z += second;
}

const offerAny = (cast: Cast, solid: Solid) => {
  if (isNear(cast, solid) && counts(cast, solid)) search.first(cast, solid);
  return false;
};
const chooseAny = (cast: Cast, solid: Solid) => {
  if (isNear(cast, solid) && counts(cast, solid)) search.choose(cast, solid);
  return false;
};
const offerSolid = (cast: Cast, solid: Solid) => !solid.oneWay && offerAny(cast, solid);
const chooseSolid = (cast: Cast, solid: Solid) => !solid.oneWay && chooseAny(cast, solid);
const overlaps = (cast: Cast, solid: Solid) => overlapsSolid(cast, solid) && counts(cast, solid);
