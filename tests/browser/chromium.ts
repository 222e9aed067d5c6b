import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { type Browser, chromium } from 'playwright-core';

const PLACES = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

/** Where a Chromium is: CHROMIUM names one, else Debian's is looked for, and installed with apt-get where that may be done. */
export function findChromium(): string {
  const named = process.env.CHROMIUM;
  if (named) return named;
  const found = PLACES.find((place) => existsSync(place));
  if (found) return found;
  try {
    execFileSync('apt-get', ['update', '-qq'], { stdio: 'ignore' });
    execFileSync('apt-get', ['install', '-y', '-qq', 'chromium'], { stdio: 'ignore' });
  } catch {
    throw new Error('The browser tests need Chromium: install the package "chromium", or set CHROMIUM to its path.');
  }
  return PLACES[0];
}

export function launch(): Promise<Browser> {
  return chromium.launch({
    executablePath: findChromium(),
    args: [
      ...['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-sync'],
      ...[
        '--disable-background-networking',
        '--disable-component-update',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
      ],
    ],
  });
}
