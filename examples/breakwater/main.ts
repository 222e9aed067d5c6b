import './duel.css';
import { type Character, TileWorld } from 'loggia';
import { Arena, type Member } from 'loggia/arena';
import { Bindings, listen } from 'loggia/browser';
import { show } from 'loggia/show';
import { formatDiagnostic, parseOpponent } from 'loggia/text';
import patient from '../../demo/boatyard/breakwater/patient.yaml?raw';
import pearl from '../../demo/boatyard/breakwater/pearl.yaml';
import sentryPlan from '../../demo/boatyard/breakwater/sentry.yaml';
import skerry from '../../demo/boatyard/breakwater/skerry.yaml';
import pellPlan from '../../demo/boatyard/pell-breakwater.yaml';
import { find, play, tellFault } from '../page/page.js';
import { Side } from './side.js';
import { Stage, WIDTH } from './stage.js';

const LEFT_KEYS: Record<string, string[]> = {
  'move.left': ['KeyA'],
  'move.right': ['KeyD'],
  'move.up': ['KeyW'],
  'move.down': ['KeyS'],
  jump: ['Space', 'pad.south'],
  gaff: ['KeyF', 'pad.west'],
  brace: ['KeyG', 'pad.rightShoulder'],
  lamp: ['KeyR', 'pad.east'],
  whistle: ['KeyT', 'pad.leftShoulder'],
  gale: ['KeyE', 'pad.north'],
  sprint: ['ShiftLeft'],
  sprintLock: [],
};
const RIGHT_KEYS: Record<string, string[]> = {
  'move.left': ['ArrowLeft'],
  'move.right': ['ArrowRight'],
  'move.up': ['ArrowUp'],
  'move.down': ['ArrowDown'],
  jump: ['Slash', 'pad.south'],
  gaff: ['Comma', 'pad.west'],
  brace: ['Period', 'pad.rightShoulder'],
  lamp: ['KeyM', 'pad.east'],
  whistle: ['KeyL', 'pad.leftShoulder'],
  gale: ['KeyK', 'pad.north'],
  sprint: ['ShiftRight'],
  sprintLock: [],
};
const HELP: readonly (readonly [keys: string, what: string])[] = [
  ['A D', 'go'],
  ['Space', 'hop'],
  ['F', 'gaff: jab, sweep, heave'],
  ['W+F', 'rising gaff, or lift after a sweep'],
  ['G', 'brace; at the last moment, parry'],
  ['R', 'hold: lamp flare'],
  ['T', 'call Skerry'],
  ['E', 'gale dash in the air'],
  ['2', 'two players: arrows , . / M L K'],
  ['1', 'against the sentry'],
  ['V', 'volumes'],
  ['N', 'slow motion'],
  ['Enter', 'once more'],
];
/** How long the end of a round is shown, in ticks. */
const PAUSE = 150;

const summons = { skerry, pearl };
const world = new TileWorld([...Array.from({ length: 9 }, () => `#${'.'.repeat(WIDTH - 2)}#`), '#'.repeat(WIDTH)]);

function bindingsOf(keys: Record<string, string[]>): Bindings {
  const bindings = new Bindings(pellPlan);
  for (const [input, sources] of Object.entries(keys)) bindings.rebind(input, sources);
  return bindings;
}

/** Two in an arena, round after round, until one has won two. */
class Match {
  readonly arena = new Arena({ world, summons });
  readonly left: Member;
  readonly right: Member;
  private readonly sides: readonly [Side, Side];
  private readonly ears;
  private readonly start: Float64Array;
  /** Ends what the viewer is shown. */
  private readonly hide: () => void;
  /** The viewer looks back. */
  private paused = false;
  private readonly wins: [number, number] = [0, 0];
  private round = 1;
  private until = 40;
  /** Ticks until the round begins. */
  private waits = 50;

  constructor(
    private readonly stage: Stage,
    readonly players: 1 | 2,
  ) {
    const { arena } = this;
    const two = players === 2;
    this.left = arena.add('Pell', pellPlan, { at: [6, 1], team: 'left' });
    const { opponent, diagnostics } = parseOpponent(patient, sentryPlan, 'patient.yaml');
    if (!opponent) throw new Error(diagnostics.map(formatDiagnostic).join('\n'));
    this.right = two
      ? arena.add('rival', pellPlan, { at: [12, 1], facing: -1, team: 'right' })
      : arena.add('sentry', sentryPlan, { at: [12, 1], facing: -1, team: 'right', plays: opponent });
    const pads = two ? { pad: 0 } : {};
    this.ears = [listen(this.left.character, { bindings: bindingsOf(LEFT_KEYS), ...pads })];
    if (two) this.ears.push(listen(this.right.character, { bindings: bindingsOf(RIGHT_KEYS), pad: 1 }));
    this.sides = [
      new Side('left', 'Pell', this.left.character, ['grit', 'wind', 'oil'], 'lampFlare'),
      two
        ? new Side('right', 'The rival', this.right.character, ['grit', 'wind', 'oil'], 'lampFlare')
        : new Side('right', 'The sentry', this.right.character, ['hull', 'spring'], null),
    ];
    this.start = arena.snapshot();
    this.hide = show(arena, 'breakwater', {
      pause: (paused) => {
        this.paused = paused;
      },
      restore: true,
    });
    this.say('Round 1', two ? 'two players' : 'the sentry strikes back');
  }

  stop(): void {
    for (const ear of this.ears) ear.stop();
    this.hide();
  }

  tick(): void {
    if (this.paused) return;
    for (const ear of this.ears) ear.poll();
    const { arena } = this;
    if (this.waits-- > 0) return;
    arena.tick();
    if (this.until > 0 && --this.until === 0) this.goOn();
    if (arena.eventCount > 0) for (const event of arena.events) this.stage.hear(event);
    [this.left, this.right].forEach(({ character }, i) => {
      this.sides[i].noteInputs();
      // What an opponent tries in vain is of no interest.
      if (character === this.right.character && this.players === 1) return;
      if (character.readout.eventCount > 0) for (const event of character.readout.events) this.sides[i].hear(event);
    });
    const over = isDown(this.left.character) || isDown(this.right.character);
    if (over && this.until === 0) this.endRound();
  }

  draw(): void {
    this.sides.forEach((side, i) => {
      side.draw(this.wins[i]);
    });
  }

  /** Once more from the first round. */
  again(): void {
    this.wins.fill(0);
    this.round = 0;
    this.next();
  }

  private endRound(): void {
    const lost = isDown(this.left.character) ? 0 : 1;
    const both = isDown(this.left.character) && isDown(this.right.character);
    if (!both) this.wins[1 - lost]++;
    this.until = PAUSE;
    const winner = ['Pell', this.players === 2 ? 'The rival' : 'The sentry'][1 - lost];
    if (both) this.say('Both are down', 'it counts for nobody');
    else if (this.wins[1 - lost] === 2) this.say(`${winner} wins the breakwater`, 'Enter: once more');
    else this.say(`${winner} takes round ${this.round}`, '');
  }

  private goOn(): void {
    if (this.wins.includes(2)) return;
    if (isDown(this.left.character) || isDown(this.right.character)) this.next();
    else this.say('', '');
  }

  private next(): void {
    this.arena.restore(this.start);
    this.round++;
    this.until = 40;
    this.waits = 50;
    this.say(`Round ${this.round}`, '');
  }

  private say(word: string, more: string): void {
    const shown = find('word');
    shown.textContent = word;
    if (!more) return;
    const small = document.createElement('small');
    small.textContent = more;
    shown.append(small);
  }
}

/** Whether a fighter has no health left. */
function isDown({ readout, plan }: Character): boolean {
  return readout.pool(plan.names.pool.includes('grit') ? 'grit' : 'hull') === 0;
}

async function start(): Promise<void> {
  find('keys').innerHTML = HELP.map(([keys, what]) => `<span><kbd>${keys}</kbd> ${what}</span>`).join('');
  const stage = await Stage.create(find('stage'));
  let match = new Match(stage, 1);
  let slow = false;
  window.addEventListener('keydown', ({ code, repeat }) => {
    if (repeat) return;
    if (code === 'KeyV') stage.showsVolumes = !stage.showsVolumes;
    if (code === 'KeyN') slow = !slow;
    if (code === 'Enter') match.again();
    if (code === 'Digit1' || code === 'Digit2') {
      match.stop();
      match = new Match(stage, code === 'Digit1' ? 1 : 2);
    }
  });
  play(pellPlan.dt, {
    speed: () => (slow ? 0.2 : 1),
    tick: () => match.tick(),
    draw(passed) {
      match.draw();
      stage.draw(match.arena, passed);
    },
  });
}

start().catch(tellFault);
