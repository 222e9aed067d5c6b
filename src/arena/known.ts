import type { Plan } from '../compile/plan.js';
import { UsageError } from '../report/usage-error.js';
import type { Lists } from './arena-tape.js';
import { Interned } from './interned.js';

/** What indexes in snapshots and tapes stand for. They grow with what the host says, not with who is called. */
export class Known {
  readonly plans = new Interned<Plan>();
  readonly names = new Interned<string>();
  readonly teams = new Interned<string>();
  readonly kinds = new Interned<string>();
  readonly tagLists = new Interned<readonly string[]>((tags) => JSON.stringify(tags));

  /** All of it: it grows, and nothing in it changes. */
  get lists(): Lists {
    return {
      names: this.names.list,
      teams: this.teams.list,
      tags: this.tagLists.list,
      kinds: this.kinds.list,
      movesets: this.plans.list.map((plan) => ({ name: plan.name, layout: plan.fingerprint })),
    };
  }

  /** Takes over that of another arena. */
  adopt({ names, teams, tags, kinds, movesets }: Lists, plans: readonly Plan[], empty: boolean): void {
    const own = movesets.map(({ name, layout }, i) => {
      const plan = [...this.plans.list.slice(i, i + 1), ...plans].find(
        (one) => one.name === name && (one.fingerprint === layout || one.former === layout),
      );
      if (!plan)
        throw new UsageError(
          `ArenaTape: it was recorded with ${name}, which is not among these movesets as it was.`,
          'other-moveset',
        );
      return plan;
    });
    const isOther = names !== this.names.list && !empty;
    if (isOther) throw new UsageError('ArenaTape: this arena has members already; take a new one.', 'not-now');
    this.plans.adopt(own);
    this.names.adopt(names);
    this.teams.adopt(teams);
    this.tagLists.adopt(tags);
    this.kinds.adopt(kinds);
  }
}
