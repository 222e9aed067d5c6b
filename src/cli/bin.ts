#!/usr/bin/env node
import { colors } from './io.js';
import { main } from './main.js';

const color = process.stdout.isTTY === true && !process.env.NO_COLOR;

// A pipe that is closed early (`| head`) is no fault.
process.stdout.on('error', () => process.exit(0));

try {
  process.exitCode = await main(process.argv.slice(2), {
    out: (line) => void process.stdout.write(`${line}\n`),
    err: (line) => void process.stderr.write(`${line}\n`),
    color: colors(color),
  });
} catch (error) {
  process.stderr.write(`loggia: this is a fault of Loggia itself: ${error instanceof Error ? error.message : error}\n`);
  process.exitCode = 1;
}
