import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import ts from 'typescript';
import { docOf, isHidden } from './comments.js';
import { cell } from './keys.js';

/** Members of a class or interface that everyone may use, with what their comments say; those of `above` are told of there. */
export function describeMembers(file: string, name: string, above: readonly string[] = []): string {
  const source = parse(file);
  const found: string[] = [];
  for (const owner of declarationsOf(source, name))
    for (const member of (owner as ts.ClassDeclaration).members) {
      // What a constructor keeps is a member, too.
      if (ts.isConstructorDeclaration(member))
        for (const kept of member.parameters) {
          const text = docOf(kept);
          if (text && !isHidden(kept) && ts.isParameterPropertyDeclaration(kept, member))
            found.push(
              `| \`${kept.name.getText(source)}: ${plainType(kept.type?.getText(source) ?? '')}\` | ${cell(text)} |`,
            );
        }
      const doc = docOf(member);
      if (isHidden(member) || ts.isSetAccessor(member)) continue;
      if (doc === undefined) {
        if (ts.isConstructorDeclaration(member) || above.includes(member.name?.getText(source) ?? '')) continue;
        undocumented.push(`${name}.${member.name?.getText(source)}`);
        continue;
      }
      found.push(`| ${signatureOf(member, source)} | ${cell(doc)} |`);
    }
  return `| member | meaning |\n| --- | --- |\n${found.join('\n')}\n`;
}

/** The names of all members of a class or interface. */
export function membersOf(file: string, name: string): string[] {
  const source = parse(file);
  return declarationsOf(source, name).flatMap((owner) =>
    (owner as ts.ClassDeclaration).members.flatMap((member) => member.name?.getText(source) ?? []),
  );
}

/** What a subpath exports, with the first sentence of each comment. */
export function describeExports(file: string): string {
  const source = parse(file);
  const rows: string[] = [];
  for (const statement of source.statements) {
    if (!ts.isExportDeclaration(statement)) {
      if (!isExported(statement)) continue;
      const name = (statement as ts.FunctionDeclaration).name?.text;
      if (name) rows.push(rowOf(name, statement));
      continue;
    }
    const target = join(dirname(file), (statement.moduleSpecifier as ts.StringLiteral).text.replace(/\.js$/, '.ts'));
    if (!statement.exportClause) {
      rows.push(describeExports(target));
      continue;
    }
    for (const { name, propertyName } of (statement.exportClause as ts.NamedExports).elements)
      rows.push(rowOf(name.text, find(target, (propertyName ?? name).text)));
  }
  return rows.join('\n');
}

/** Exports without a comment. */
export const undocumented: string[] = [];

function rowOf(name: string, statement: ts.Node | undefined): string {
  const doc = statement && docOf(statement);
  if (!statement || !doc) {
    undocumented.push(name);
    return '';
  }
  const kind = ts.isClassDeclaration(statement)
    ? 'class'
    : ts.isFunctionDeclaration(statement)
      ? 'function'
      : ts.isVariableStatement(statement)
        ? 'value'
        : 'type';
  const shown = ts.isFunctionDeclaration(statement) ? callOf(statement) : name;
  return `| \`${shown}\` | ${kind} | ${cell(firstSentence(doc))} |`;
}

/** Up to its first full stop, but not that of an abbreviation or a number. */
function firstSentence(doc: string): string {
  return /^.*?[.](?=\s+[A-Z`{]|$)/s.exec(doc)?.[0] ?? doc;
}

/** A function as it is called: its parameters, and what it gives. */
function callOf({ name, parameters, type }: ts.FunctionDeclaration): string {
  const source = name?.getSourceFile();
  const given = parameters.map((p) => `${parameterName(p, source)}${p.questionToken || p.initializer ? '?' : ''}`);
  const returns = type ? `: ${plainType(type.getText(source))}` : '';
  return `${name?.text}(${given.join(', ')})${returns}`;
}

function parameterName({ name }: ts.ParameterDeclaration, source: ts.SourceFile | undefined): string {
  return ts.isIdentifier(name) ? name.getText(source) : 'options';
}

/** The declaration of a name, through re-exports. */
function find(file: string, name: string): ts.Node | undefined {
  const source = parse(file);
  const [own] = declarationsOf(source, name);
  if (own) return own;
  for (const statement of source.statements) {
    if (!ts.isExportDeclaration(statement) || !statement.moduleSpecifier) continue;
    const element = (statement.exportClause as ts.NamedExports | undefined)?.elements?.find(
      (e) => e.name.text === name,
    );
    const target = join(dirname(file), (statement.moduleSpecifier as ts.StringLiteral).text.replace(/\.js$/, '.ts'));
    if (element) return find(target, (element.propertyName ?? element.name).text);
  }
  return undefined;
}

/** All declarations of a name; of overloads, the first has the comment. */
function declarationsOf(source: ts.SourceFile, name: string): ts.Node[] {
  return source.statements.filter((statement) => {
    if (ts.isVariableStatement(statement))
      return statement.declarationList.declarations.some((d) => d.name.getText(source) === name);
    return (statement as ts.ClassDeclaration).name?.text === name;
  });
}

const parsed = new Map<string, ts.SourceFile>();

function parse(file: string): ts.SourceFile {
  let source = parsed.get(file);
  if (!source) {
    source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.ES2022, true);
    parsed.set(file, source);
  }
  return source;
}

function isExported(node: ts.Node): boolean {
  return (ts.getCombinedModifierFlags(node as ts.Declaration) & ts.ModifierFlags.Export) !== 0;
}

function signatureOf(member: ts.Node, source: ts.SourceFile): string {
  if (ts.isConstructorDeclaration(member))
    return `\`new (${member.parameters.map((p) => p.name.getText(source)).join(', ')})\``;
  const { name, type } = member as ts.MethodDeclaration;
  const returns = type ? `: ${plainType(type.getText(source))}` : '';
  if (ts.isMethodDeclaration(member) || ts.isMethodSignature(member)) {
    const parameters = member.parameters.map(
      (p) => `${p.name.getText(source)}${p.questionToken || p.initializer ? '?' : ''}`,
    );
    return `\`${name.getText(source)}(${parameters.join(', ')})${returns}\``;
  }
  return `\`${name.getText(source)}${returns}\``;
}

/** `N['ability'] | null` as `string | null`: the names of a moveset are texts. */
function plainType(type: string): string {
  return type
    .replace(/N\['\w+'\]/g, 'string')
    .replace(/<N>/g, '')
    .replaceAll('|', '\\|')
    .replace(/\s*\n\s*/g, ' ');
}
