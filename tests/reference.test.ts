import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { expect, test } from 'vitest';
import { docOf, isHidden } from '../scripts/reference/comments.js';
import { makeDocs } from '../scripts/reference/field-docs.js';
import { makeReference } from '../scripts/reference/make.js';
import { ROOT } from './support.js';

/** `npm run reference` writes them again. */
test.each(Object.entries(makeReference()))('docs/reference/%s says what the tables say', async (file, text) => {
  await expect(text).toMatchFileSnapshot(join(ROOT, 'docs/reference', file));
});

test('what editors say of a field is what the comment of its type says', async () => {
  await expect(makeDocs()).toMatchFileSnapshot(join(ROOT, 'src/moveset/docs.ts'));
});

test('no page of the reference is left over', () => {
  expect(readdirSync(join(ROOT, 'docs/reference')).sort()).toEqual(Object.keys(makeReference()).sort());
});

test.each([
  'moveset/types.ts',
  'moveset/name-types.ts',
  'moveset/effects/move.ts',
  'moveset/effects/walk.ts',
  'report/events.ts',
  'character/readout.ts',
  'character/door.ts',
  'world/world.ts',
])('an editor shows a text over every field of %s', (file) => {
  const source = ts.createSourceFile(file, readFileSync(join(ROOT, 'src', file), 'utf8'), ts.ScriptTarget.ES2022, true);
  const bare: string[] = [];
  const look = (node: ts.Node, owner: string): void => {
    const name = (node as ts.InterfaceDeclaration).name?.getText(source) ?? owner;
    const isField =
      ts.isPropertySignature(node) ||
      ts.isMethodSignature(node) ||
      ts.isGetAccessor(node) ||
      ts.isMethodDeclaration(node);
    const isForbidden = ts.isPropertySignature(node) && node.type?.kind === ts.SyntaxKind.NeverKeyword;
    // The fields of an event are told of with its kind; names are no fields.
    const told = /^(LoggiaEvent|EventNames|NameTypes|AStart\w+|Parsed\w+|Shown|DriveView)$/.test(owner);
    if (isField && !isForbidden && !isHidden(node) && !told && docOf(node) === undefined) bare.push(`${owner}.${name}`);
    if (ts.isMethodDeclaration(node)) return;
    ts.forEachChild(node, (child) =>
      look(
        child,
        ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node) || ts.isClassDeclaration(node)
          ? name
          : owner,
      ),
    );
  };
  ts.forEachChild(source, (node) => look(node, ''));
  expect(bare).toEqual([]);
});
