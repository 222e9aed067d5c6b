import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'vitest';
import type { Plan } from '../compile/plan.js';
import { hasKeys } from '../format/has-keys.js';
import { formatDiagnostic, formatExcerpt } from '../format/index.js';
import { wantOptions, wantText } from '../report/arguments.js';
import { UsageError } from '../report/usage-error.js';
import { Movesets, runScenarioFile, tellFailures, tellStory } from '../scenario/index.js';

/** How the scenarios of a folder are run as tests. */
export interface TestOptions {
  /** Runs every scenario with this moveset instead of the one that it names. */
  plan?: Plan;
  /** The folder that movesets must be in. Default: the nearest above the scenario with a package.json or .git. */
  root?: string;
}

/**
 * Registers every scenario of a folder, and of the folders in it, as a test of its own; other files are left out. A
 * scenario that does not go as expected fails with what was expected, what was there instead, and its story.
 * @param folder A path.
 * @param options Another moveset, and the root folder.
 * @throws {UsageError} for a folder that is not there, or has no scenario in it.
 */
export function testScenarios(folder: string, options: TestOptions = {}): void {
  wantText('testScenarios', 'the folder', folder);
  wantOptions('testScenarios', options, ['plan', 'root']);
  const { plan, root } = options;
  if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory())
    throw new UsageError(`testScenarios: there is no folder ${folder}.`, 'unknown-name');
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(
    (file) => /\.(ya?ml|json)$/.test(file) && hasKeys(join(folder, file), ['scenario']),
  );
  if (files.length === 0) throw new UsageError(`testScenarios: there is no scenario in ${folder}.`, 'missing');
  const movesets = new Movesets();
  for (const file of files.sort())
    test(file, async () => {
      const report = await runScenarioFile(join(folder, file), {
        movesets,
        ...(plan && { plan }),
        ...(root && { root }),
      });
      if (report.result?.passed) return;
      const faults = report.diagnostics.flatMap((d) => [formatDiagnostic(d), formatExcerpt(d)]);
      const error = new Error([report.scenario, ...faults, ...tellFailures(report), ...tellStory(report)].join('\n'));
      // The stack would lead into this file; what failed stands in the scenario.
      error.stack = error.message;
      throw error;
    });
}
