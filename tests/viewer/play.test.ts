import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { layOutRows } from '../../src/draw/timeline/draw-timeline.js';
import { UsageError } from '../../src/index.js';
import { toScenario } from '../../src/scenario/index.js';
import { bindingsOf } from '../../viewer/model/bindings.js';
import { BrowserDisk } from '../../viewer/model/browser-disk.js';
import { lastUse, timingRows } from '../../viewer/model/chosen.js';
import { groundOf, YARD } from '../../viewer/model/grounds.js';
import { guestsOf } from '../../viewer/model/guests.js';
import { notesOf } from '../../viewer/model/lit.js';
import { Live } from '../../viewer/model/live.js';
import { Model } from '../../viewer/model/model.js';
import { numbersIn, stepped } from '../../viewer/model/numbers.js';
import type { TextFile } from '../../viewer/model/texts.js';
import { forRandomInTurn, MOVESETS } from '../random/for-random.js';
import type { Random } from '../random/random.js';
import { ROOT } from '../support.js';

const window = Object.assign(new EventTarget(), { document: new EventTarget() }) as unknown as Window;
beforeAll(() => {
  vi.stubGlobal('document', window.document);
  vi.stubGlobal('navigator', { getGamepads: () => [] });
});
afterAll(() => {
  vi.unstubAllGlobals();
});

const DEMO = join(ROOT, 'demo/boatyard');
const files = Object.fromEntries(
  readdirSync(DEMO, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => [name, readFileSync(join(DEMO, name), 'utf8')]),
);
const disk = new BrowserDisk({ file: 'pell.yaml', files });

/** A lab without a page: somewhere, with somebody, played by anybody. */
async function played(random: Random): Promise<Model> {
  const { scenarios } = await disk.project();
  const file = random.pick(disk.movesets);
  const ground = random.chance(0.5) ? YARD : random.pick(scenarios).file;
  const guests = ground === YARD && random.chance(0.5) ? [random.pick(guestsOf(file, scenarios))] : [];
  const texts: TextFile[] = [];
  const found = await groundOf({ ground, as: null, guests }, { file, scenarios }, disk, texts);
  if ('fault' in found) throw new Error(found.fault);
  const { plan, others } = found.ready.players;
  const live = Live.begin(found.ready, window, random.pick([plan.name, ...others.keys()]));
  if (typeof live === 'string') throw new Error(live);
  const model = new Model(live.recording, ground, texts);
  model.begin(live, ground);
  return model;
}

/** Something that somebody may do in the page. */
function act(model: Model, random: Random): void {
  const { character } = model.live as Live;
  const abilities = model.now?.plan.names.ability ?? [];
  const deeds: (() => void)[] = [
    () => {
      for (let k = random.whole(0, 50); k >= 0; k--) {
        const { button = [] } = character?.plan.names ?? {};
        if (button.length > 0 && random.chance(0.4)) {
          const input = random.pick(button);
          if (random.chance(0.5)) character?.door.press(input);
          else character?.door.release(input);
        }
        model.advance(1 / 60);
      }
    },
    () => model.toggle(),
    () => model.goTo(random.whole(-2, model.ticks.last + 5)),
    () => model.step(random.pick([-10, -1, 1, 10])),
    () => model.jump(random.pick(['refusal', 'start', 'blow'] as const), random.pick([1, -1] as const)),
    () => model.continueHere(),
    () => {
      const file = random.pick(model.shownFiles);
      const lines = file.text.split('\n');
      const at = random.pick(lines.map((_, i) => i));
      const number = random.pick(numbersIn(lines[at]).slice(0, 1).concat(numbersIn(lines[at])));
      if (!number) return;
      const { from, to } = number;
      lines[at] = lines[at].slice(0, from) + stepped(number, random.whole(-20, 20)) + lines[at].slice(to);
      model.edit(file.name, lines.join('\n'));
    },
    () => {
      const { name, text } = random.pick(model.shownFiles);
      const at = random.whole(0, text.length);
      model.edit(
        name,
        text.slice(0, at) + random.pick(['', ' ', '\n', ':', '- x', '}', '9']) + text.slice(at + random.whole(0, 12)),
      );
    },
    () => {
      for (const { name, saved } of model.files) model.edit(name, saved);
    },
    () => model.setFromStart(random.chance(0.5)),
    () => model.selectNext(),
    () => abilities.length > 0 && model.choose(random.pick(abilities)),
    () => abilities.length > 0 && model.ask(random.pick(abilities)),
    () => model.zoom(random.pick([0.5, 2]), model.tick),
    () => model.toggleLoop(),
    () => model.setFacts(['vx', random.pick(model.now?.plan.factNames() ?? ['vy'])]),
    () => {
      const recording = model.made ?? model.recording;
      try {
        toScenario(recording, { from: recording.first + 1, to: recording.last });
      } catch (error) {
        if (!(error instanceof UsageError)) throw error;
      }
    },
  ];
  random.pick(deeds)();
}

/** Reads all that the page would draw. */
function read(model: Model): void {
  notesOf(() => model.now, model.why, model.ability);
  const { now, ticks, tick, told } = model;
  const { names } = now?.plan ?? {};
  for (const ability of names?.ability ?? []) now?.explain(ability);
  if (now && model.ability !== null && names?.ability.includes(model.ability)) {
    timingRows(now.plan, model.ability);
    lastUse(model, model.ability);
  }
  for (const one of ticks.at(tick).members) bindingsOf(one as never);
  layOutRows(model.timeline, model.live?.player);
  expect(tick >= ticks.first && tick <= ticks.last).toBe(true);
  expect(told).not.toMatch(/undefined|NaN|\[object/);
  const { live } = model;
  if (!(live instanceof Live) || model.made) return;
  // The last tick is how it is where it is played.
  const own = ticks.at(ticks.last).members.find(({ name }) => name === live.player);
  if (own) expect([own.readout.x, own.readout.y]).toEqual([live.character?.readout.x, live.character?.readout.y]);
}

test('whatever is done in the lab, in whatever order, all that it shows can be read, and the last tick is the one that is played', async () => {
  await forRandomInTurn(MOVESETS / 10, async (random) => {
    const model = await played(random);
    for (let i = 0; i < 50; i++) {
      act(model, random);
      read(model);
    }
    model.live?.stop();
  });
}, 120_000);

test('what cannot go on stands still, and says why', async () => {
  // Nobody says who the skerry is that a whistle calls.
  const alone = new BrowserDisk({ file: 'pell-breakwater.yaml', files: { ...files, ...withoutScenarios } });
  const texts: TextFile[] = [];
  const found = await groundOf({ ground: YARD, as: null, guests: [] }, await alone.project(), alone, texts);
  const live = 'ready' in found ? Live.begin(found.ready, window) : found.fault;
  if (typeof live === 'string') throw new Error(live);
  const model = new Model(live.recording, 'yard', texts);
  model.begin(live, 'yard');
  live.character?.door.press('whistle');
  for (let i = 0; i < 30 && model.playing; i++) model.advance(1 / 60);
  expect([model.playing, model.told]).toEqual([false, expect.stringMatching(/^It cannot go on: .*skerry/)]);
  read(model);
});
const withoutScenarios = Object.fromEntries(
  Object.keys(files).flatMap((name) => (name.startsWith('scenarios/') ? [[name, '']] : [])),
);
