import type { Ending, LoggiaEvent, Reason } from '../../src/index.js';

/** What the reference says of each event, reason and ending; the compiler misses none. */
export const EVENT_WORDS: Record<LoggiaEvent['kind'], string> = {
  started: 'An ability started.',
  phase: 'A phase of an ability began.',
  ended: 'An ability ended: why, and by which ability if one followed or broke it.',
  refused:
    'A request was refused, or its reasons changed: `via` says what asked (`input`, `rule`, `event` or `code`), `main` is the reason to show a player, `reasons` are all, `kept` is how many seconds the request stays alive. Abilities that are not learnt or not in the active loadout report nothing.',
  stance: 'Another stance holds.',
  landed: 'The feet touched the ground.',
  airborne: 'The feet left the ground.',
  stuck: 'The body is inside something solid, and there is no room to push it out to.',
  fell: 'The body fell out of the world, at a lower edge that says `fall`.',
  warped: 'A warp put the feet at `x`, `y`, `z`.',
  emitted: 'An `emit` of an ability, phase or beat: for the host. `values` are there if the event declares any.',
  received:
    'An event was handled: the host sent it in with `door.event`, an arena told it, or the character hears its own. `values` are there if the event declares any.',
  summoned: 'It calls somebody into the arena.',
  gone: 'It leaves the arena after this tick.',
  lost: 'More messages came in one tick than there is room for: this one is gone.',
  clip: 'Another clip is to be shown on a `layer`; `null` for none. Clips that name no layer are on `base`.',
  loadout: 'Another loadout is active.',
  emptied: 'A pool reached its lower limit.',
  latched: 'A toggle was latched.',
  unlatched: 'A toggle was unlatched.',
};

export const REASON_WORDS: Record<Reason['code'], string> = {
  locked: 'It is not learnt, or was forgotten while its request waited.',
  loadout: 'It is not in the active loadout, or is so no longer since the loadout changed while its request waited.',
  follows: 'It must come out of one of `allowed`.',
  from: 'It may not start in the present stance.',
  when: 'A condition does not hold; `facts` are what it read.',
  cooldown: 'Its cooldown is not over; `remaining` are seconds, or `null` while it waits for its event.',
  charges: 'No uses are left; `remaining` are seconds until the next, or `null` when no time brings one.',
  pool: 'A pool has too little.',
  restart: 'Its upkeep ran out, and a pool has less than is needed to start again.',
  cost: 'The function for its cost returned no number.',
  room: 'Its warp finds no place with room for the body, or there is none for whom it calls.',
  target: 'Its warp has no point or direction: `wants` are those that it looks for.',
  barred: 'An ability that is running bars it.',
  busy: 'Its lane is busy with an ability (and phase) that is not open to it.',
  running: 'It is running already.',
  outranked: 'Another request went first in the same tick.',
};

export const ENDING_WORDS: Record<Ending, string> = {
  time: 'Its last phase was over.',
  condition: 'A condition of `end` held.',
  released: 'Its input was released, or its rule no longer held.',
  ranOut: 'A pool of its `upkeep` was empty.',
  followed: 'Another ability followed it: it was `open` to that one.',
  broken: 'Another ability broke it by `breaks`.',
  code: '`door.end` ended it.',
  interrupted:
    'A condition of `interrupt` held, or a charge with `early: cancel` was released early, or a warp led nowhere as it began.',
  couldNotPay: 'The phase named by `pay` could not pay the cost.',
  unavailable: 'It was forgotten, or is not in the loadout that became active.',
};
