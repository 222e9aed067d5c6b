import { COMBAT } from './combat.js';
import { RIDE } from './ride.js';
import {
  ABILITY,
  AIM,
  BUTTON,
  CHARGES,
  CHOICE,
  COOLDOWN,
  HEAD,
  LANE,
  LAYER,
  M_FIRST,
  MARK,
  MESSAGES,
  POOL,
  STICK,
  TRIGGER,
  VALUED_MESSAGES,
} from './slots.js';

/** What a moveset needs places for, by name; counted before anything is compiled. */
export interface Needs {
  readonly buttons: readonly string[];
  readonly sticks: readonly string[];
  readonly aims: readonly string[];
  readonly choices: readonly string[];
  readonly marks: readonly string[];
  /** Layers of clips. */
  readonly layers: readonly string[];
  readonly pools: readonly string[];
  readonly events: readonly EventNeeds[];
  readonly lanes: readonly LaneNeeds[];
  readonly abilities: readonly AbilityNeeds[];
  /** Names of cooldowns: of groups, or of abilities that share theirs with none. */
  readonly cooldowns: readonly string[];
  /** Per trigger: how many numbers of its own it owns. */
  readonly triggers: readonly number[];
  /** It strikes, is struck, or meets the bodies of others. */
  readonly combat: boolean;
  /** Some effect keeps its body at a mark. */
  readonly rides: boolean;
  readonly summons: readonly string[];
  /** Numbers that the effects of the stance own, and those of the loadout. */
  readonly stanceOwn: number;
  readonly loadoutOwn: number;
}

export interface EventNeeds {
  readonly name: string;
  /** How many numbers its values take. */
  readonly size: number;
}

export interface LaneNeeds {
  readonly name: string;
  /** Numbers that the effects of one of its abilities own at most, and those of one phase. */
  readonly abilityOwn: number;
  readonly phaseOwn: number;
}

export interface AbilityNeeds {
  readonly name: string;
  readonly charges: boolean;
  readonly grace: boolean;
  readonly restart: boolean;
  readonly toggle: boolean;
  readonly power: boolean;
  /** A charge of power builds over a time that a formula says. */
  readonly powerTime: boolean;
  /** Waits for an event to begin its cooldown. */
  readonly waits: boolean;
  /** It strikes, so that its strikes have a result. */
  readonly strikes: boolean;
  /** Messages with values that start it. */
  readonly hears: readonly EventNeeds[];
}

/** Places of one ability that only some have; -1 for none. */
export interface AbilityPlaces {
  readonly at: number;
  readonly charges: number;
  /** Own tick at which its `from` and `when` last held, for grace. */
  readonly eligible: number;
  /** 1 after its upkeep ran out, until the restart threshold is reached. */
  readonly ranOut: number;
  readonly latched: number;
  /** Charge of power, 0 to 1; kept until its next start. */
  readonly power: number;
  /** Over how many ticks that builds, as it was read when it began. */
  readonly powerTime: number;
  /** 1 while its cooldown waits for its event. */
  readonly waits: number;
  /** What became of its strikes: see HAS_HIT. */
  readonly result: number;
  /** Per message that starts it: the own tick in which it last did, and the values that it carried. */
  readonly heard: readonly Heard[];
}

export interface Heard {
  readonly event: string;
  readonly size: number;
  readonly at: number;
}

export interface LanePlaces {
  readonly at: number;
  readonly abilityOwn: number;
  readonly phaseOwn: number;
}

/** A named stretch of the record. */
export interface SlotRange {
  readonly label: string;
  readonly at: number;
  readonly count: number;
}

/** Where everything stands in the record of one moveset's characters. */
export interface Layout {
  /** All of it by name; nothing in a module that leaves the moveset out. */
  readonly ranges: readonly SlotRange[];
  readonly buttons: number;
  readonly sticks: number;
  readonly aims: number;
  readonly choices: number;
  readonly marks: number;
  readonly layers: number;
  readonly pools: number;
  /** First place of the lanes; each takes LANE numbers. */
  readonly lanes: number;
  readonly laneOwn: readonly LanePlaces[];
  readonly stanceOwn: number;
  readonly loadoutOwn: number;
  readonly abilities: readonly AbilityPlaces[];
  readonly cooldowns: number;
  readonly triggers: number;
  /** Per trigger: its own numbers, -1 for none. */
  readonly triggerOwn: readonly number[];
  /** Per event: the own tick at which it was last handled, and the values that it carried then. */
  readonly events: readonly number[];
  /** Messages that came in: see M_COUNT. */
  readonly messages: number;
  /** Numbers that each of them takes, and how many there can be. */
  readonly message: number;
  readonly mostMessages: number;
  /** What only those have who fight, -1 for none: see COMBAT. */
  readonly combat: number;
  /** What only those have who ride, -1 for none: see RIDE. */
  readonly ride: number;
  /** Per name of who may be called: how many of those that it called are there. */
  readonly summoned: number;
  /** Per lane and pool: what the running ability paid. */
  readonly paid: number;
  /** The record ends here. */
  readonly end: number;
}

/** Lays out the record: the one place where it is decided what stands where. */
export function layOut(needs: Needs): Layout {
  const ranges: SlotRange[] = [{ label: 'head', at: 0, count: HEAD }];
  let next = HEAD;
  const take = (label: string, count: number): number => {
    if (count === 0) return -1;
    ranges.push({ label, at: next, count });
    next += count;
    return next - count;
  };
  /** One stretch for each of a kind, one behind the other; gives the first place. */
  const takeEach = (kind: string, names: readonly string[], each: number): number => {
    const first = next;
    for (const name of names) take(`${kind} ${name}`, each);
    return first;
  };
  const buttons = takeEach('button', needs.buttons, BUTTON);
  const sticks = takeEach('stick', needs.sticks, STICK);
  const aims = takeEach('aim', needs.aims, AIM);
  const choices = takeEach('choice', needs.choices, CHOICE);
  const marks = takeEach('mark', needs.marks, MARK);
  const layers = takeEach('clips of', needs.layers, LAYER);
  const pools = takeEach('pool', needs.pools, POOL);
  const lanes = takeEach(
    'lane',
    needs.lanes.map(({ name }) => name),
    LANE,
  );
  const laneOwn = needs.lanes.map(({ name, abilityOwn, phaseOwn }, i) => ({
    at: lanes + i * LANE,
    abilityOwn: take(`effects of an ability in ${name}`, abilityOwn),
    phaseOwn: take(`effects of a phase in ${name}`, phaseOwn),
  }));
  const stanceOwn = take('effects of the stance', needs.stanceOwn);
  const loadoutOwn = take('effects of the loadout', needs.loadoutOwn);
  const abilities = needs.abilities.map(
    ({ name, charges, grace, restart, toggle, power, powerTime, waits, strikes, hears }) => ({
      at: take(`ability ${name}`, ABILITY),
      charges: take(`charges of ${name}`, charges ? CHARGES : 0),
      eligible: take(`grace of ${name}`, grace ? 1 : 0),
      ranOut: take(`restart of ${name}`, restart ? 1 : 0),
      latched: take(`latch of ${name}`, toggle ? 1 : 0),
      power: take(`charge of ${name}`, power ? 1 : 0),
      powerTime: take(`length of the charge of ${name}`, powerTime ? 1 : 0),
      waits: take(`waiting of ${name}`, waits ? 1 : 0),
      result: take(`result of ${name}`, strikes ? 1 : 0),
      heard: hears.map((event) => ({
        event: event.name,
        size: event.size,
        at: take(`${event.name} to ${name}`, 1 + event.size),
      })),
    }),
  );
  const cooldowns = takeEach('cooldown', needs.cooldowns, COOLDOWN);
  const triggers = takeEach(
    'trigger',
    needs.triggers.map((_, i) => String(i)),
    TRIGGER,
  );
  const triggerOwn = needs.triggers.map((count, i) => take(`memory of trigger ${i}`, count));
  const events = needs.events.map(({ name, size }) => take(`event ${name}`, 1 + size));
  const most = needs.events.reduce((size, event) => Math.max(size, event.size), 0);
  const message = 1 + most;
  const mostMessages = most === 0 ? MESSAGES : VALUED_MESSAGES;
  const messages = take('messages', needs.events.length > 0 ? M_FIRST + mostMessages * message : 0);
  const combat = take('combat', needs.combat ? COMBAT : 0);
  const ride = take('ride', needs.rides ? RIDE : 0);
  const summoned = takeEach('summoned', needs.summons, 1);
  const paid = take('paid', needs.lanes.length * needs.pools.length);
  return {
    ranges,
    buttons,
    sticks,
    aims,
    choices,
    marks,
    layers,
    pools,
    lanes,
    laneOwn,
    stanceOwn,
    loadoutOwn,
    abilities,
    cooldowns,
    triggers,
    triggerOwn,
    events,
    combat,
    ride,
    summoned,
    messages,
    message,
    mostMessages,
    paid,
    end: next,
  };
}

/** FNV-1a over UTF-16 units: 32 bits. */
export function hashText(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}

/** Behind the record: how many triggers have their bits in one number. */
export const AWAKE_BITS = 30;

/** Behind the record: a probe's answers, derived from the record and the world whenever they are read. */
export const PROBE = 14;
/** The moment for which the answers hold. */
export const Q_MOMENT = 0;
export const Q_HIT = 1;
export const Q_DISTANCE = 2;
export const Q_POINT = 3;
export const Q_NORMAL = 6;
/** Velocity of what was hit, and its surfaces: a bit each, in the order of their declaration. */
export const Q_VELOCITY = 9;
export const Q_SURFACES = 12;
/** Which of the things that move was hit; see Hit.mover. */
export const Q_MOVER = 13;

/**
 * Behind the record: the room that the body is in, see motion/rooms.ts. Two corners, and whether its lower side is ground; -1 as
 * long as no room is known: 1 for ground without surfaces, 2 for ground with some.
 */
export const ROOM = 10;
export const ROOM_X0 = 0;
export const ROOM_Y0 = 1;
export const ROOM_Z0 = 2;
export const ROOM_X1 = 3;
export const ROOM_Y1 = 4;
export const ROOM_Z1 = 5;
export const ROOM_FLOOR = 6;
/** How high the walls at its sides are, and the surfaces of its floor. */
export const ROOM_WALL_X0 = 7;
export const ROOM_WALL_X1 = 8;
export const ROOM_SURFACES = 9;
