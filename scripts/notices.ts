import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Plugin } from 'vite';

/** Writes the licences of the packages that are in the files, beside them. */
export function notices(head: string): Plugin {
  return {
    name: 'notices',
    generateBundle(_, bundle) {
      const modules = Object.values(bundle).flatMap((chunk) => (chunk.type === 'chunk' ? chunk.moduleIds : []));
      const folders = modules.flatMap((id) => /^.*\/node_modules\/(?:@[^/]+\/)?[^/]+/.exec(id)?.[0] ?? []);
      const texts = [...new Set(folders)].sort().map((folder) => {
        const { name, version, license } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
        const file = readdirSync(folder).find((one) => /^licen[cs]e/i.test(one));
        if (!file) this.error(`${name} has no file of its licence.`);
        return `${name} ${version} (${license})\n\n${readFileSync(join(folder, file as string), 'utf8').trim()}\n`;
      });
      this.emitFile({
        type: 'asset',
        fileName: 'NOTICES.txt',
        source: [`${head}\n`, ...texts].join(`\n${'-'.repeat(80)}\n\n`),
      });
    },
  };
}
