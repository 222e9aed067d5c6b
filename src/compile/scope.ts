import type { Piece } from '../moveset/effects/effect.js';
import { EFFECTS, type EffectFields } from '../moveset/effects/index.js';
import type { ParsedBeat, ParsedScope } from '../moveset/schema.js';
import { sound } from '../moveset/shape.js';
import type { Striking } from '../record/combat.js';
import type { Warping } from '../record/frame.js';
import { NEVER } from '../record/slots.js';
import type { Compiling } from './compiling.js';
import { BASE, clipTicks, countOwned } from './needs.js';
import type { Action, BeatPlan, ScopePlan } from './plan.js';

/** Compiles scopes: what holds while a stance, a loadout, an ability or a phase is active. */
export class ScopeCompiler {
  /** Ticks of the scope that is compiled. */
  lasting = NEVER;
  private readonly indexes = new Map<string, number>();

  constructor(private readonly c: Compiling) {}

  /** Clips that some scope shows, in the order of their indexes, and how long they are. */
  get clips(): string[] {
    return [...this.indexes.keys()];
  }

  get clipTicks(): number[] {
    return this.clips.map((clip) => this.ticksOf(clip));
  }

  /** A beat at a time, or at a place of the clip of its scope, which comes again in what lasts without end. */
  private compileBeat(beat: ParsedBeat, scope: ParsedScope, begins: readonly Action[], lasting: boolean): BeatPlan {
    const { at = 0, every = 0, place } = beat;
    if (place === undefined) return { at, every, layer: -1, clip: -1, begins };
    const layer = this.c.layers.findIndex((name) => clipOf(scope, name) !== undefined);
    const clip = layer < 0 ? undefined : clipOf(scope, this.c.layers[layer]);
    const ticks = clip === undefined ? 0 : this.ticksOf(clip);
    return {
      at: Math.round(place * ticks),
      every: lasting ? ticks : 0,
      layer,
      clip: ticks > 0 ? this.clipIndex(clip) : -1,
      begins,
    };
  }

  private ticksOf(clip: string): number {
    return clipTicks(this.c.parsed, clip) ?? 0;
  }

  compile(scope: ParsedScope, ownAt: number, ability = -1, lasts = NEVER): ScopePlan {
    const [begins, eachs, folds, scales, ends]: Action[][] = [[], [], [], [], []];
    let warp: Warping | null = null;
    let summon = -1;
    const strikes: { plan: Striking; own: number }[] = [];
    const beats: BeatPlan[] = [];
    const owners: string[] = [];
    let own = ownAt;
    this.lasting = lasts;
    for (const effect of EFFECTS) {
      const value = scope[effect.key as keyof EffectFields];
      if (value === undefined) continue;
      const piece: Piece = this.c.making.make(`${effect.key}Effect.compile`, [value], this.c.effects, (tools) =>
        effect.compile(value, tools),
      );
      if (piece.begin) begins.push({ run: piece.begin, own, key: effect.key });
      if (piece.each) eachs.push({ run: piece.each, own, key: effect.key });
      if (piece.fold) folds.push({ run: piece.fold, own, key: effect.key });
      if (piece.scale) scales.push({ run: piece.scale, own, key: effect.key });
      if (piece.end) ends.push({ run: piece.end, own, key: effect.key });
      warp ??= piece.warp ?? null;
      summon = piece.summon ?? summon;
      const striking = piece.strike ?? piece.touch;
      if (striking) strikes.push({ plan: striking, own });
      const owns = effect.owns(value);
      if (owns > 0) owners.push(effect.key);
      own += owns;
    }
    for (const beat of sound(scope.beats)) {
      const actions = this.compile({ gain: beat.gain, emit: beat.emit, mark: beat.mark }, -1).begins;
      if (beat.moment === 'begin') begins.push(...actions);
      else if (beat.moment === 'end') ends.push(...actions);
      else beats.push(this.compileBeat(beat, scope, actions, ability < 0));
    }
    return {
      begins,
      eachs,
      folds,
      scales,
      ends,
      warp,
      summon,
      strikes,
      forgets: scope.forget !== undefined,
      ownAt,
      owns: countOwned(scope),
      owners: owners.join(),
      tags: sound(scope.tags),
      open: this.c.members.mask(scope.open, 'ability'),
      bars: this.c.members.mask(scope.bars, 'ability', ability),
      clips: this.c.layers.map((layer) => this.clipIndex(clipOf(scope, layer))),
      beats,
    };
  }

  private clipIndex(clip: string | undefined): number {
    if (clip === undefined) return -1;
    if (!this.indexes.has(clip)) this.indexes.set(clip, this.indexes.size);
    return this.indexes.get(clip) as number;
  }
}

/** The clip that a scope shows on a layer. */
function clipOf({ clip }: ParsedScope, layer: string): string | undefined {
  if (typeof clip === 'object') return clip[layer];
  return layer === BASE ? clip : undefined;
}
