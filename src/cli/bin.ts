#!/usr/bin/env node
import { colors, type ExitCode } from './io.js';
import { main } from './main.js';

/** A stream that other programs may close, or whose disk may be full. */
class Output {
  private fault: string | undefined;

  constructor(private readonly stream: NodeJS.WriteStream) {
    stream.on('error', (error: NodeJS.ErrnoException) => {
      this.fault ??= error.code ?? String(error);
    });
  }

  readonly write = (text: string): void => {
    if (this.fault === undefined) this.stream.write(text);
  };

  /** Why not everything was written, or undefined. A pipe that is closed early (`| head`) is no fault. */
  async finish(): Promise<string | undefined> {
    if (this.fault === undefined) await new Promise<void>((resolve) => this.stream.write('', () => resolve()));
    return this.fault === 'EPIPE' ? undefined : this.fault;
  }

  get colored(): boolean {
    const { FORCE_COLOR, NO_COLOR, TERM } = process.env;
    if (FORCE_COLOR) return FORCE_COLOR !== '0';
    return !NO_COLOR && TERM !== 'dumb' && this.stream.isTTY === true;
  }

  get isTerminal(): boolean {
    return this.stream.isTTY === true;
  }
}

const out = new Output(process.stdout);
const err = new Output(process.stderr);
let code: ExitCode;
try {
  code = await main(process.argv.slice(2), {
    out: (line) => out.write(`${line}\n`),
    err: (line) => err.write(`${line}\n`),
    progress: (text = '') => err.isTerminal && err.write(`\r\u001b[2K${text}`),
    color: colors(out.colored),
    errColor: colors(err.colored),
  });
} catch (error) {
  const why = error instanceof Error ? error.message : String(error);
  err.write(`loggia: this is a bug in Loggia, please report it: ${why}\n`);
  code = 2;
}
const fault = await out.finish();
if (fault !== undefined) {
  err.write(`loggia: the output could not be written: ${fault}.\n`);
  code = 2;
}
await err.finish();
process.exitCode = code;
