import type { Prepared } from '../../src/scenario/run.js';
import { toScenario } from '../../src/scenario/to-scenario.js';
import type { World } from '../../src/world/world.js';
import { type Disk, DiskFault, type Project, relativeTo } from './disk.js';
import { FLAT, type Ground, groundOf, type Setting, sentenceOf, YARD } from './grounds.js';
import { type Guest, guestsOf } from './guests.js';
import { Live } from './live.js';
import { Model } from './model.js';
import { loadRapier, type RapierProgram, roomOf } from './rapier-room.js';
import type { TextFile } from './texts.js';

/** Somewhere to play. */
export interface GroundChoice {
  readonly id: string;
  readonly text: string;
}

/** How often it is looked whether somebody else has changed a file, in milliseconds. */
const LOOK_EVERY = 1500;

/** What moves bodies in the lab: Loggia itself, or colliders of Rapier, where the project has it. */
export type Physics = 'loggia' | 'rapier';

/** The lab: the viewer with a moveset to play, and a disk to read it from and keep it on. */
export class Lab {
  readonly model: Model;
  readonly choices: readonly GroundChoice[];
  /** Who can be invited to where there is nobody yet. */
  readonly guests: readonly Guest[];
  setting: Setting = { ground: YARD, as: null, guests: [] };
  physics: Physics = 'loggia';
  /** Who is there from the beginning. */
  members: readonly string[] = [];
  /** A file that somebody else has changed while it is changed here, and how it is on the disk. */
  conflict: { readonly file: string; readonly text: string } | null = null;
  private stamps: Readonly<Record<string, number>> = {};
  private rapier: RapierProgram | null = null;
  private watching: ReturnType<typeof setInterval> | undefined;

  private constructor(
    readonly disk: Disk,
    readonly project: Project,
    readonly texts: TextFile[],
    { live, members }: Started,
  ) {
    this.choices = [
      { id: YARD, text: 'the yard: one of everything' },
      { id: FLAT, text: 'flat ground' },
      ...project.scenarios.map(({ file, scenario }) => ({ id: file, text: `${scenario} (${file})` })),
    ];
    this.guests = guestsOf(project.file, project.scenarios);
    this.members = members;
    this.model = new Model(live.recording, project.file, texts);
    this.model.save = () => {
      this.save();
    };
    this.model.begin(live, this.title);
  }

  /** Whether it is a world without a file, into which others can be invited. */
  get isOwn(): boolean {
    return this.setting.ground === YARD || this.setting.ground === FLAT;
  }

  private get title(): string {
    const { ground } = this.setting;
    const where = this.isOwn ? `${this.project.file} in the ${ground}` : ground;
    return this.physics === 'rapier' ? `${where}, by Rapier` : where;
  }

  /** Opens the moveset of a project in the yard. What is wrong is an error with a sentence. */
  static async open(disk: Disk): Promise<Lab> {
    const project = await disk.project();
    const texts: TextFile[] = [];
    const ground = await groundOf({ ground: YARD, as: null, guests: [] }, project, disk, texts);
    const begun = start(ground, null, null);
    if (typeof begun === 'string') throw new DiskFault(begun);
    const lab = new Lab(disk, project, texts, begun);
    lab.stamps = await disk.stamps(texts.map(({ name }) => name));
    lab.watch();
    return lab;
  }

  /** Plays somewhere else, as somebody else, or again from the start. Where that cannot be, all stays as it is, and a sentence says why. */
  async enter(change: Partial<Setting> = {}, physics = this.physics): Promise<void> {
    const { model } = this;
    const ground = change.ground ?? this.setting.ground;
    const isElsewhere = ground !== this.setting.ground;
    const setting = { ...this.setting, ...(isElsewhere && { as: null }), ...change };
    let begun: Started | string;
    try {
      const found = await groundOf(setting, this.project, this.disk, this.texts);
      const engine = physics === 'rapier' && 'ready' in found ? await this.engineFor(found.ready) : null;
      begun = typeof engine === 'string' ? engine : start(found, setting.as, engine);
    } catch (error) {
      begun = sentenceOf(error);
    }
    if (typeof begun === 'string') {
      model.told = `${ground} cannot be played: ${begun}`;
      model.changed();
      return;
    }
    this.setting = setting;
    this.physics = physics;
    this.members = begun.members;
    model.begin(begun.live, this.title);
    this.stamps = await this.disk.stamps(this.texts.map(({ name }) => name));
  }

  private async engineFor({ world, players }: Prepared): Promise<World | string> {
    this.rapier ??= await loadRapier(await this.disk.program('rapier'));
    const plans = [players.plan, ...players.others.values(), ...Object.values(players.summons)];
    return roomOf(this.rapier, world, [...new Set(plans.flatMap((plan) => plan.names.place))]);
  }

  /** Writes all that is changed; what somebody else has changed meanwhile is asked about. */
  async save(): Promise<void> {
    const { changed } = await saveTo(this.disk, this.model);
    if (changed) this.conflict = changed;
    this.stamps = await this.disk.stamps(this.texts.map(({ name }) => name)).catch(() => this.stamps);
    this.model.changed();
  }

  /** Ends a conflict: with what is here, which is written over the other's, or with what is on the disk. */
  async settle(keep: 'mine' | 'theirs'): Promise<void> {
    const { conflict, texts, model } = this;
    const file = texts.find(({ name }) => name === conflict?.file);
    this.conflict = null;
    if (!file || !conflict) return;
    file.saved = conflict.text;
    if (keep === 'mine') await this.save();
    else model.edit(file.name, conflict.text);
    model.changed();
  }

  /** What was played between two ticks as a scenario; an error with a sentence where none can say it. */
  scenario(from: number, to: number, sentence: string, file: string): string {
    const { model } = this;
    if (model.scenery)
      throw new DiskFault("A scenario's world is one of Loggia's own: play it in Loggia's world to keep it.");
    const recording = model.made ?? model.recording;
    const folder = file.split('/').slice(0, -1).join('/');
    const all = [...recording.run.plans, ...Object.values(recording.run.summons)];
    const movesets = Object.fromEntries(
      this.texts.flatMap(({ name }) => {
        const plan = all.find((one) => model.fileOf(one) === name);
        return plan ? [[plan.name, relativeTo(folder, name)]] : [];
      }),
    );
    return toScenario(recording, {
      from: Math.max(recording.first + 1, from),
      to: Math.min(recording.last, to),
      movesets,
      ...(sentence !== '' && { scenario: sentence }),
    });
  }

  async keep(file: string, text: string): Promise<string | undefined> {
    try {
      await this.disk.create(file, text);
      this.model.told = `Written: ${file}.`;
      this.model.changed();
      return undefined;
    } catch (error) {
      return sentenceOf(error);
    }
  }

  /** Nothing is played or watched any more. */
  close(): void {
    clearInterval(this.watching);
    this.model.live?.stop();
  }

  /** What others write is taken over, unless it is changed here, too. */
  private watch(): void {
    this.watching = setInterval(async () => {
      try {
        const names = this.texts.map(({ name }) => name);
        const now = await this.disk.stamps(names);
        for (const name of names) {
          if (now[name] === this.stamps[name]) continue;
          const text = await this.disk.read(name);
          const file = this.texts.find((one) => one.name === name);
          if (!file || text === file.saved) continue;
          if (file.text === file.saved) {
            file.saved = text;
            this.model.edit(name, text);
          } else if (file.text !== text) this.conflict = { file: name, text };
          else file.saved = text;
          this.model.changed();
        }
        this.stamps = now;
      } catch {
        // It is asked again; what is saved meanwhile tells that the lab has ended.
      }
    }, LOOK_EVERY);
  }
}

/** Writes all files that are changed; gives one that somebody else has changed meanwhile, as it is there. */
export async function saveTo(disk: Disk, model: Model): Promise<{ changed?: { file: string; text: string } }> {
  const written: string[] = [];
  let conflict: { file: string; text: string } | undefined;
  try {
    for (const file of model.files) {
      if (file.text === file.saved) continue;
      const { text } = file;
      const { changed } = await disk.write(file.name, text, file.saved);
      if (changed === undefined) {
        file.saved = text;
        written.push(file.name);
      } else conflict = { file: file.name, text: changed };
    }
    if (written.length > 0) model.told = `Written: ${written.join(', ')}.`;
    if (conflict) model.told = `${conflict.file} has changed on the disk meanwhile, and was not written.`;
  } catch (error) {
    model.told = sentenceOf(error);
  }
  model.changed();
  return conflict ? { changed: conflict } : {};
}

/** A run that has begun, and who is in it. */
interface Started {
  readonly live: Live;
  readonly members: readonly string[];
}

function start(found: Ground, as: string | null, engine: World | null): Started | string {
  if ('fault' in found) return found.fault;
  const live = Live.begin(found.ready, window, as, engine);
  if (typeof live === 'string') return live;
  const { plan, others } = found.ready.players;
  return { live, members: [plan.name, ...others.keys()] };
}
