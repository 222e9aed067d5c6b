import type { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import { kindOf } from '../moveset/inputs/index.js';

/** Where a spot of the window is in the world, by `clientX` and `clientY`; undefined where it is nowhere. */
export type ToWorld = (clientX: number, clientY: number) => readonly [x: number, y: number, z?: number] | undefined;

/** Aims that the pointer gives, by name. */
export function pointerAims(plan: Plan): string[] {
  return Object.entries(plan.inputs).flatMap(([name, input]) =>
    kindOf(input)?.pointer?.(input as never) === true ? name : [],
  );
}

/**
 * Aims at what is under the pointer. It is asked before each tick, since the world moves under a pointer that rests.
 * Returns what asks, and what stops it.
 */
export function aimByPointer(
  character: Pick<Character, 'door' | 'plan'>,
  element: HTMLElement,
  toWorld: ToWorld,
): { poll(): void; stop(): void } {
  const aims = pointerAims(character.plan);
  let at: readonly [number, number] | null = null;
  const move = (event: PointerEvent) => {
    at = [event.clientX, event.clientY];
  };
  element.addEventListener('pointermove', move);
  element.addEventListener('pointerdown', move);
  return {
    poll() {
      const point = at && toWorld(at[0], at[1]);
      if (point) for (const aim of aims) character.door.aimAt(aim, point[0], point[1], point[2] ?? 0);
    },
    stop() {
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerdown', move);
    },
  };
}
