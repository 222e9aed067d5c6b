import { diagnosticToJson } from './check.js';
import { type CommandSpec, rootOf, SCENARIO_ROOT_OPTION } from './command.js';
import { safe, showDiagnostic } from './io.js';

export const replay: CommandSpec = {
  name: 'replay',
  summary: 'Play a tape again, in the world of a scenario and with its movesets, and tell what happens.',
  args: '<tape>',
  argsDoc: 'a tape of a character or an arena, saved as JSON',
  options: [
    ['--in <scenario>', 'the scenario whose world and movesets it is played with'],
    SCENARIO_ROOT_OPTION,
    ['--json', 'print a row for each tick as JSON'],
  ],
  example: 'loggia replay bug.json --in demo/boatyard/scenarios/second-dash-refused.yaml',
  async run([tape], given, io) {
    if (given.in === undefined) {
      io.err('loggia: a tape holds no world; say with --in which scenario has the one that it was recorded in.');
      return 2;
    }
    const { replayFile } = await import('../scenario/replay.js');
    const { tellStory } = await import('../scenario/tell.js');
    const keep = given.json ? 'everything' : 'story';
    const { report, fault } = await replayFile(tape, String(given.in), { keep, ...rootOf(given) });
    const { result, diagnostics } = report;
    if (given.json) {
      const { checksum, trace = [] } = result ?? {};
      io.out(JSON.stringify({ fault, diagnostics: diagnostics.map(diagnosticToJson), checksum, trace }, null, 2));
      return result ? 0 : 1;
    }
    for (const d of diagnostics) io.err(showDiagnostic(d, io.errColor));
    if (!result) {
      io.err(safe(fault ?? `${String(given.in)} cannot be used; see above.`));
      return 1;
    }
    for (const line of tellStory(report, io.color)) io.out(line);
    if (result.trace.length === 0) io.out('nothing happened');
    return 0;
  },
};
