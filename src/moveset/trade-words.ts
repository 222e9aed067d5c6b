/**
 * Words of the trade for what has another name here: what to write instead. They are looked for where a key is unknown, in small letters
 * and without what joins words.
 */
const WAYS: readonly (readonly [words: string, way: string])[] = [
  [
    'hitbox hitboxes attackbox hitvolume damagebox',
    'What strikes is a "strike" of an ability or phase, as in strike: { box: [1, 1], damage: 4 }.',
  ],
  ['hurtbox hurtboxes hurtvolume', 'Where a character can be struck is said by "hurt" of the moveset.'],
  [
    'knockback launch pushback impulse',
    'What a blow gives is "push" of a strike, as in strike: { sphere: 1, push: [6, 2] }.',
  ],
  ['hitstun blockstun stagger', 'How long a blow stuns is "stun" of a strike, and of a guard.'],
  ['hitstop hitpause hitlag freezeframes', 'How long a blow stops both clocks is "stop" of a strike.'],
  ['damage dmg', 'Damage belongs to a strike, as in strike: { sphere: 1, damage: 4 }.'],
  [
    'cancel cancels cancelinto cancellable cancelable cancelwindow',
    'What may follow is said by "open"; what an ability may break into, by its "breaks".',
  ],
  [
    'transitions transition goto nextstate',
    'What may follow is said by "open" of what runs and "follows" of what comes; what may be broken, by "breaks".',
  ],
  [
    'combo chain chains combowindow',
    'A step of a combo names the one before in its "follows", which lets it in by "open".',
  ],
  [
    'extends extend inherits inherit parent base template basedon copyof variantof prototype',
    'Another one of its kind is taken over by "like", as in like: jab; files are taken over by "include".',
  ],
  ['label title displayname tooltip', 'What a player reads of it is "says"; what is for the host goes under "data".'],
  [
    'icon color colour tint userdata meta metadata custom',
    'What is for the host goes under "data", as in data: { icon: jab.png }.',
  ],
  ['priority overrides interrupts', 'What an ability may break into is said by its "breaks".'],
  ['coyote coyotetime forgiveness', 'How long it may still start is "grace".'],
  ['inputbuffer bufferwindow prebuffer', 'How long a press too early is kept is "buffer".'],
  [
    'invulnerable invincible invulnerability invincibility iframes iframe invuln',
    'Strikes go through a body that is "immune", as in immune: true.',
  ],
  ['superarmor superarmour armor poise hyperarmor', 'A body that is not stunned has "armour", as in armour: true.'],
  [
    'block blocking parry shield',
    'What blocks or parries is a "guard" of an ability or phase, as in guard: { parry: 6f }.',
  ],
  ['duration lasts frames', 'How long a phase lasts is its "for", as in phases: [{ for: 0.2s }].'],
  [
    'startup windup active recovery endlag anticipation',
    'Parts of an ability are its phases, as in phases: [{ name: windup, for: 5f }, { name: active, for: 3f }].',
  ],
  ['steps stages sequence', 'Parts of an ability are its "phases".'],
  ['uses ammo stacks maxuses', 'How often it may be used is "charges", as in charges: { max: 2, every: 3s }.'],
  ['drain drains consumes channelcost', 'What it drains while it runs is "upkeep", as in upkeep: { wind: 2 }.'],
  [
    'stamina mana energy hp health resource resources stats',
    'Such a number is a pool: pools: { wind: { max: 24 } }; abilities take from it by "cost" and "upkeep".',
  ],
  [
    'raycast raycasts ray rays sensor sensors trace',
    'Questions to the world are "probes" of the moveset; formulas and directions read them.',
  ],
  ['states state', 'What the body does by itself is a stance; what the player asks for is an ability.'],
  ['condition requires requirements canstart', 'What must hold is "when".'],
  [
    'onstart onenter onbegin onend onexit ontick callback script',
    'What happens at certain times is a beat, as in beats: [{ moment: begin, emit: splash }].',
  ],
  ['sound sfx vfx particles effects', 'The host is told by an event that the ability emits, as in emit: splash.'],
  ['animation anim montage sprite', 'What is shown is its "clip".'],
  ['teleport blink warpto', 'What puts the body somewhere else is a "warp".'],
  ['velocity force jump thrust', 'What moves the body is a "move", as in move: { forward: 9, up: 3 }.'],
  [
    'unlocked unlock granted learned learnt available enabled',
    'An ability that is not there at first is "locked: true"; it comes by "learn", and goes by "forget".',
  ],
  [
    'key keys bindings controls actions',
    'Keys are bound in "inputs" of the moveset, as in inputs: { gale: { button: KeyF } }; an ability names its input in "start".',
  ],
  ['input', 'What requests an ability is its "start", as in start: { press: gale }.'],
  ['teams faction', 'Sides are given as a character joins an arena: arena.add(name, plan, { team }).'],
  ['layer layers track', 'What runs side by side runs in lanes: lanes: [body, hands].'],
];

const BY_WORD: ReadonlyMap<string, string> = new Map(
  WAYS.flatMap(([words, way]) => words.split(' ').map((word) => [word, way] as const)),
);

/** What to write instead of a word of the trade. */
export function wayOf(key: string): string | undefined {
  return BY_WORD.get(key.toLowerCase().replace(/[^a-z]/g, ''));
}
