import { readFileSync } from 'node:fs';
import type { Plan } from '../compile/plan.js';
import type { Recording } from '../recording/index.js';
import type { ScenarioReport } from '../scenario/index.js';
import { type Io, refuse, safe } from './io.js';

/** A run that is looked at. */
export interface LoadedRun {
  readonly recording: Recording;
  /** What became of the scenario; undefined for a recording from a file. */
  readonly report?: ScenarioReport;
  /** Every file that was read. */
  readonly files: readonly string[];
}

/** A recording from a file, or of a scenario that is run; what is wrong is told. */
export async function loadRun(
  file: string,
  moveset: string | undefined,
  root: { root?: string },
  io: Io,
): Promise<LoadedRun | undefined> {
  const { Recording } = await import('../recording/index.js');
  const { runScenarioFile } = await import('../scenario/index.js');
  const { loadMoveset } = await import('../format/index.js');
  const { UsageError } = await import('../report/usage-error.js');
  let plan: Plan | undefined;
  if (moveset !== undefined) {
    const loaded = await loadMoveset(moveset, root);
    plan = loaded.plan;
    if (!plan) {
      refuse(
        io,
        loaded.diagnostics.filter(({ severity }) => severity === 'error'),
        `${safe(moveset)} cannot be used; see above.`,
      );
      return undefined;
    }
  }
  const bytes = readRecording(file);
  if (bytes !== undefined) {
    try {
      return { recording: await Recording.fromFile(bytes, { movesets: plan ? [plan] : [] }), files: [file] };
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      io.err(safe(`${file} cannot be read: ${error.message}`));
      return undefined;
    }
  }
  let run: Recording | undefined;
  const report = await runScenarioFile(file, {
    ...root,
    ...(plan && { plan }),
    keep: 'nothing',
    record: (recording) => {
      run = recording;
    },
  });
  if (run === undefined) {
    refuse(io, report.diagnostics, `${safe(file)} cannot be run; see above.`);
    return undefined;
  }
  return { recording: run, report, files: report.files };
}

/** The bytes of a recording; undefined for what is none, which is a scenario then, or not there. */
function readRecording(file: string): Uint8Array | undefined {
  let bytes: Uint8Array;
  try {
    bytes = readFileSync(file);
  } catch {
    return undefined;
  }
  const isDeflated = bytes[0] === 0x1f && bytes[1] === 0x8b;
  return isDeflated || /^\{"loggia":1,"recording":/.test(Buffer.from(bytes.subarray(0, 40)).toString())
    ? bytes
    : undefined;
}
