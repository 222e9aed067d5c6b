import { R_STEERED, R_STEERS } from '../record/ride.js';
import { B_DOWN, BUTTON, STICK } from '../record/slots.js';
import { followMarks } from '../tick/take-in/marks.js';
import { moveNow } from '../tick/walk/move.js';
import { mountOf } from '../tick/walk/ride.js';
import type { Member } from './member.js';

/** Moves those who ride others, each after whom they ride. */
export function moveRiders(list: readonly Member[]): void {
  for (let i = 0; i < list.length; i++) list[i].moved = list[i].c.mover === null || mountOf(list[i].c) === 0;
  for (let i = 0; i < list.length; i++) moveRider(list[i]);
}

function moveRider(member: Member): void {
  if (member.moved || !member.awake) return;
  // Two that ride each other have no first.
  member.moved = true;
  const { c } = member;
  const mount = c.others?.byId(mountOf(c)) as Member | undefined;
  if (mount) moveRider(mount);
  followMarks(c);
  moveNow(c);
}

/** Has whoever is ridden hear what their rider holds, where that steers. What a tape replays is in it already. */
export function steerMounts(list: readonly Member[], replays: boolean): void {
  for (let i = 0; i < list.length; i++) {
    const { c } = list[i];
    const { rideAt } = c.plan;
    if (rideAt < 0) continue;
    const mount = c.r[rideAt + R_STEERS] === 1 ? mountOf(c) : 0;
    const before = c.r[rideAt + R_STEERED];
    if (before === 0 && mount === 0) continue;
    c.r[rideAt + R_STEERED] = mount;
    if (before !== mount && !replays) steer(list[i], c.others?.byId(before) as Member | undefined, false);
    const other = c.others?.byId(mount) as Member | undefined;
    if (!other) continue;
    other.steered = true;
    if (!replays) steer(list[i], other, true);
  }
}

/** Passes on what a rider holds, or that nothing is held any more. */
function steer({ c: { r, plan } }: Member, mount: Member | undefined, holds: boolean): void {
  if (!mount) return;
  const { door, plan: own } = mount.c;
  for (let i = 0; i < own.sticks.length; i++) {
    const index = plan.indexes.stick.get(own.sticks[i].name);
    if (index === undefined) continue;
    const at = plan.layout.sticks + index * STICK;
    door.stick(own.sticks[i].name, holds ? r[at] : 0, holds ? r[at + 1] : 0);
  }
  for (let i = 0; i < own.names.button.length; i++) {
    const name = own.names.button[i];
    const index = plan.indexes.button.get(name);
    if (index === undefined || own.stickOf[i] >= 0) continue;
    if (holds && r[plan.layout.buttons + index * BUTTON + B_DOWN] === 1) door.press(name);
    else door.release(name);
  }
}
