import type { Recording } from '../recording/index.js';
import { UsageError } from '../report/usage-error.js';
import { type Io, safe, wordTick } from './io.js';

type LookOptions = Readonly<Record<string, string | true | undefined>>;

/** Answers what was asked of a run, and writes it to a file; says whether all of it could be done. */
export async function lookAt(
  recording: Recording,
  { ask, why, record }: LookOptions,
  sources: readonly string[],
  io: Io,
): Promise<boolean> {
  try {
    if (ask !== undefined) tellTicks(recording, String(ask), io);
    if (why !== undefined) tellWhy(recording, String(why), io);
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    // The call's name says nothing here; its option does.
    io.err(safe(`loggia: ${error.message.replace(/^find: /, '--ask: ').replace(/^why: /, '--why: ')}`));
    return false;
  }
  if (record === undefined) return true;
  const { writeWhole } = await import('../format/write-whole.js');
  const bytes = await recording.toFile();
  const fault = writeWhole(String(record), bytes, sources);
  if (fault) io.err(safe(`loggia: ${String(record)} cannot be written: ${fault}.`));
  else io.out(safe(`${String(record)}: ${recording.last + 1} ticks, ${Math.ceil(bytes.byteLength / 1024)} kB`));
  return fault === undefined;
}

function wordValue(value: number | boolean): string {
  return typeof value === 'number' && Number.isFinite(value) ? String(Math.round(value * 1000) / 1000) : String(value);
}

/** The ticks after which a condition holds: those in a row as one line. */
function tellTicks(recording: Recording, formula: string, io: Io): void {
  const ticks = recording.find(formula).filter((tick) => tick >= 0);
  io.out(`${safe(formula)}: ${ticks.length === 0 ? 'never' : `${ticks.length} of ${recording.last + 1} ticks`}`);
  for (let i = 0; i < ticks.length; ) {
    let last = i;
    while (ticks[last + 1] === ticks[last] + 1) last++;
    io.out(`  ${wordTick(ticks[i], recording.rate)}${last > i ? ` to ${wordTick(ticks[last], recording.rate)}` : ''}`);
    i = last + 1;
  }
}

/** Each refusal of an ability with its reasons, where they are written, and what they rest on. */
function tellWhy(recording: Recording, ability: string, io: Io): void {
  const ticks = recording.find({ refused: ability });
  if (ticks.length === 0) io.out(`${safe(ability)} was never refused`);
  for (const tick of ticks) {
    const { reasons } = recording.why(tick, ability);
    io.out(`${wordTick(tick, recording.rate)}  ${safe(ability)} was refused`);
    for (const { text, path, place, line, operands } of reasons) {
      io.out(`  ${safe(text)}`);
      const values = operands.map((one) => `${one.text} was ${wordValue(one.value)}`);
      io.out(io.color.dim(safe(`    ${place ? `${place.file}:${place.line}  ${line ?? path}` : path}`)));
      if (values.length > 0) io.out(io.color.dim(safe(`    ${values.join(', ')}`)));
    }
  }
}
