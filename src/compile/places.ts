import type { Code } from '../record/code.js';
import type { Frame, Operand, Run } from '../record/frame.js';
import { expressionOf, written } from '../record/written.js';
import type { Path } from '../report/diagnostic.js';

/**
 * By the paths of numbers, as JSON, the places that they get: what stands in `constants` of the plan may be changed there, for
 * characters created from then on. A number whose list stays empty cannot be changed like that.
 */
export type Tuning = ReadonlyMap<
  string,
  { readonly at: number; value: number; readonly min: number; readonly max: number }[]
>;

/** Places behind the record for constants and scratch numbers, so that every operand of a formula is a place in one array. */
export class Places {
  readonly constants: { at: number; value: number }[] = [];
  /** Numbers that may be changed once all is compiled: see {@link Tuning}. */
  tuning: Tuning | undefined;
  /** Characters live: nothing takes a new place any more. */
  protected late = false;
  private readonly lateAt: number;

  /** `size` is the first free place; the array's length once all is compiled. */
  constructor(public size: number) {
    this.lateAt = this.size++;
  }

  constant(value: number): Operand {
    if (this.late)
      return this.scratch(({ r }, at) => {
        r[at] = value;
      });
    const known = this.constants.find((c) => Object.is(c.value, value));
    const at = known?.at ?? this.size++;
    if (!known) this.constants.push({ at, value });
    return { at, run: null, constant: true };
  }

  /** A number that may be changed later has a place to itself, and nothing rests on what it is now. */
  protected tuned(value: number, path: Path, min: number, max: number): Operand | undefined {
    const key = JSON.stringify(path);
    if (!this.tuning?.has(key)) return undefined;
    const place = { at: this.size++, value, min, max };
    this.constants.push(place);
    this.tuning.get(key)?.push(place);
    return { at: place.at, run: null, constant: false };
  }

  /** A number that is written when it is read; `code` says what, as an expression. */
  scratch(write: (c: Frame, at: number) => void, code?: (at: number) => Code | undefined): Operand {
    const at = this.place();
    const run: Run = (c) => write(c, at);
    return { at, run: written(run, code && (() => code(at))), constant: false };
  }

  /** An operand as an expression, if there is one. */
  codeOf(operand: Operand): Code | undefined {
    return expressionOf(operand, this.constants);
  }

  /** So many places in a row behind the record, the first of them; -1 once characters live. */
  take(count: number): number {
    if (this.late) return -1;
    this.size += count;
    return this.size - count;
  }

  protected place(): number {
    return this.late ? this.lateAt : this.size++;
  }
}
