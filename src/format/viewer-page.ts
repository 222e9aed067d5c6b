import { existsSync, readFileSync } from 'node:fs';

/** Where the viewer's page is: in the package, and from its sources in what was built of them. */
const PLACES = ['../viewer/viewer.html', '../../dist/viewer/viewer.html'];

/** The viewer's page, into which a run is put, or who serves it; undefined where it was not built. */
export function readViewerPage(): string | undefined {
  const found = PLACES.map((place) => new URL(/* @vite-ignore */ place, import.meta.url)).find((one) =>
    existsSync(one),
  );
  return found && readFileSync(found, 'utf8');
}
