import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Missing } from './write-out.js';

/** Files of the face that pictures are set in, beside the built command line. */
const FACES = ['plex-sans-400.woff2', 'plex-sans-600.woff2'];

let ready: Promise<typeof import('@resvg/resvg-wasm')> | undefined;

/** Draws SVG as PNG, by a package that not everybody needs. */
export async function toPng(svg: string): Promise<Uint8Array> {
  ready ??= load();
  const { Resvg } = await ready;
  const here = dirname(fileURLToPath(import.meta.url));
  const fontBuffers = FACES.map((face) => new Uint8Array(readFileSync(join(here, face))));
  const drawn = new Resvg(svg, {
    font: { fontBuffers, defaultFontFamily: 'IBM Plex Sans', sansSerifFamily: 'IBM Plex Sans' },
    fitTo: { mode: 'zoom', value: 2 },
  });
  return drawn.render().asPng();
}

async function load(): Promise<typeof import('@resvg/resvg-wasm')> {
  let found: typeof import('@resvg/resvg-wasm');
  try {
    found = await import('@resvg/resvg-wasm');
  } catch {
    throw new Missing(
      'a PNG is drawn by the package @resvg/resvg-wasm: run "npm install -D @resvg/resvg-wasm", or write .svg.',
    );
  }
  const require = createRequire(import.meta.url);
  await found.initWasm(readFileSync(require.resolve('@resvg/resvg-wasm/index_bg.wasm')));
  return found;
}
