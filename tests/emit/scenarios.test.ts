import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import type { Loaded } from '../../src/format/text.js';
import type { Plan } from '../../src/index.js';
import { Movesets, runScenarioFile, tellFailures } from '../../src/scenario/index.js';
import { ROOT } from '../support.js';
import { generated } from './generated.js';

/** Every moveset as its generated module. */
class Modules extends Movesets {
  private readonly made = new Map<Plan, Plan>();

  override async load(file: string, root: string): Promise<Loaded> {
    const loaded = await super.load(file, root);
    const { plan } = loaded;
    if (!plan) return loaded;
    const made = this.made.get(plan) ?? generated(plan);
    this.made.set(plan, made);
    return { ...loaded, plan: made };
  }
}

const FOLDER = join(ROOT, 'demo/boatyard/scenarios');
const files = readdirSync(FOLDER).filter((file) => file.endsWith('.yaml'));

test('all scenarios of the boatyard go the same with modules: every event and every reason', async () => {
  expect(files.length).toBeGreaterThan(60);
  const modules = new Modules();
  const movesets = new Movesets();
  for (const file of files) {
    const path = join(FOLDER, file);
    const [module, interpreter] = await Promise.all([
      runScenarioFile(path, { movesets: modules, keep: 'everything' }),
      runScenarioFile(path, { movesets, keep: 'everything' }),
    ]);
    expect(tellFailures(module)).toEqual([]);
    expect(module.diagnostics).toEqual(interpreter.diagnostics);
    // As text first, since comparing it value by value takes longer than running it.
    if (JSON.stringify(module.result) !== JSON.stringify(interpreter.result))
      expect(module.result).toEqual(interpreter.result);
  }
});
