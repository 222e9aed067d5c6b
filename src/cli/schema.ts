import type { Command } from 'commander';
import { movesetSchema } from '../format/index.js';
import { scenarioSchema } from '../scenario/index.js';
import type { ExitCode, Io } from './io.js';

const SCHEMAS = { moveset: movesetSchema, scenario: scenarioSchema };

export function addSchema(program: Command, io: Io, done: (code: ExitCode) => void): void {
  program
    .command('schema')
    .description('print the JSON Schema of a format, for editors that complete and check YAML')
    .argument('<format>', Object.keys(SCHEMAS).join(' or '))
    .addHelpText('after', '\nExample:\n  loggia schema moveset > moveset.schema.json')
    .action((format: string) => {
      if (!Object.hasOwn(SCHEMAS, format)) {
        io.err(`loggia schema: there is no format "${format}". There are ${Object.keys(SCHEMAS).join(' and ')}.`);
        done(2);
        return;
      }
      io.out(JSON.stringify(SCHEMAS[format as keyof typeof SCHEMAS](), null, 2));
      done(0);
    });
}
