import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { dirname, relative, resolve } from 'node:path';
import { promisify } from 'node:util';
import type { Plan } from '../compile/plan.js';
import { loadMoveset, parseMoveset } from '../format/index.js';
import { findRoot, isInFolder } from '../format/root.js';
import { type Io, refuse, safe } from './io.js';

/** A file of a revision, in bytes, at most: as much as a moveset may have. */
const MOST_BYTES = 1 << 20;

/**
 * Another version of a moveset: a file, or one as it was in a revision of git: `HEAD~3:demo/boatyard/pell.yaml`, or the
 * revision alone for the same file. What is wrong is told.
 */
export async function loadVersion(
  spec: string,
  file: string,
  root: string | undefined,
  io: Io,
): Promise<Plan | undefined> {
  const say = (why: string): undefined => {
    io.err(safe(`loggia: --compare ${spec}: ${why}.`));
    return undefined;
  };
  if (existsSync(spec)) {
    const { plan, diagnostics } = await loadMoveset(spec, root === undefined ? {} : { root });
    if (!plan)
      refuse(
        io,
        diagnostics.filter(({ severity }) => severity === 'error'),
        safe(`loggia: ${spec} has errors; nothing was compared.`),
      );
    return plan;
  }
  const colon = spec.indexOf(':');
  const revision = colon < 0 ? spec : spec.slice(0, colon);
  if (revision === '' || revision.startsWith('-'))
    return say('there is no such file, and no revision of git is called like that');
  const git = promisify(execFile);
  const folder = dirname(resolve(file));
  let top: string;
  try {
    top = (await git('git', ['-C', folder, 'rev-parse', '--show-toplevel'])).stdout.trim();
    await git('git', ['-C', top, 'rev-parse', '--verify', '--quiet', '--end-of-options', `${revision}^{commit}`]);
  } catch {
    return say('there is no such file, and no revision of git is called like that');
  }
  const name = colon < 0 ? relative(top, resolve(file)) : spec.slice(colon + 1);
  // A path of a revision begins at the top of the repository.
  const texts = new Map<string, string>();
  const read = async (path: string): Promise<string | undefined> => {
    const known = texts.get(path);
    if (known !== undefined) return known;
    try {
      const { stdout } = await git(
        'git',
        ['-C', top, 'show', '--end-of-options', `${revision}:${path.replaceAll('\\', '/')}`],
        { maxBuffer: MOST_BYTES },
      );
      texts.set(path, stdout);
      return stdout;
    } catch {
      return undefined;
    }
  };
  const text = await read(name);
  if (text === undefined)
    return say(`the revision ${revision} has no file ${name}, or it is larger than a moveset may be`);
  const within = relative(top, root === undefined ? findRoot(resolve(top, name)) : resolve(root));
  // Files that it includes are read as they were then; which these are shows as it is parsed.
  for (;;) {
    const lacking: string[] = [];
    const loaded = parseMoveset(text, name, {
      root: within,
      allows: (path) => isInFolder(resolve(top, within), resolve(top, path)),
      read: (path) => {
        const found = texts.get(path);
        if (found !== undefined) return { text: found };
        lacking.push(path);
        return {
          fault: {
            code: 'file-unreadable',
            severity: 'error',
            path: [],
            on: 'value',
            params: { why: `the revision ${revision} has no such file` },
          },
        };
      },
    });
    const more = await Promise.all(lacking.map(read));
    if (lacking.length > 0 && more.some((one) => one !== undefined)) continue;
    if (!loaded.plan)
      refuse(
        io,
        loaded.diagnostics.filter(({ severity }) => severity === 'error'),
        safe(`loggia: ${spec} has errors; nothing was compared.`),
      );
    return loaded.plan;
  }
}
