import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { EFFECTS } from '../../src/moveset/effects/index.js';
import { INPUTS } from '../../src/moveset/inputs/index.js';
import { PROBES } from '../../src/moveset/probes/index.js';
import { MOVESET } from '../../src/moveset/schema.js';
import type { FieldsShape, Shape } from '../../src/moveset/shape.js';
import { STARTS } from '../../src/moveset/starts/index.js';
import { docOf } from './comments.js';

const MOVESETS = join(import.meta.dirname, '../../src/moveset');

/** A file for a kind has its type: of the start by a press, `PressStart`. */
function typeOf(key: string, kind: string): string {
  return `${key.charAt(0).toUpperCase()}${key.slice(1)}${kind}`;
}

/** Which types say what the fields of a thing are; after a dot, what a field of the type is. Those of effects stand under their keys. */
const TYPES: Readonly<Record<string, readonly string[]>> = {
  'a moveset': ['Moveset'],
  'a pool': ['Pool'],
  'an input': INPUTS.map(({ key }) => typeOf(key, 'Input')),
  'a stick': ['StickInput.stick'],
  'an aim': ['AimInput.aim'],
  'an event': ['MessageDeclaration'],
  'what hurts': ['Hurt'],
  'limits of a blow': ['Hurt.limits'],
  'a hurt volume': ['StillVolume'],
  'a mark': ['Mark'],
  'a probe': PROBES.map(({ key }) => typeOf(key, 'Probe')),
  'a target': ['Target'],
  'the body': ['Body'],
  walk: ['Walk'],
  'a stance': ['Stance'],
  'a beat': ['Beat'],
  'a facing': ['Facing'],
  'an ability': ['Ability', 'ActiveEffects'],
  'a start': STARTS.map(({ key }) => typeOf(key, 'Start')),
  'an upkeep': ['AbilityFields.upkeep'],
  'a cooldown': ['AbilityFields.cooldown'],
  charges: ['AbilityFields.charges'],
  'a warp': ['Warp'],
  move: ['Move'],
  'a step of a curve': ['CurveStep'],
  'a strike': ['Strike'],
  'a volume': ['Volume'],
  'a push': ['Push'],
  'a guard': ['Guard'],
  'a touch': ['Touch'],
  'a volume of a touch': ['TouchVolume'],
  'a ride': ['Ride'],
  'a summon': ['Summon'],
  'a velocity': ['Push'],
  'a phase': ['Phase', 'ActiveEffects'],
  'a charge': ['Charge'],
  'a loadout': ['Loadout'],
  'a clip': ['Clip'],
  'a lane': ['Lane'],
  'a condition': ['WordedCondition'],
};

type Docs = Record<string, Record<string, string>>;

/**
 * What the comments of the types say of each optional field, by the title of what it belongs to. Throws for a field that only
 * its type or only its shape knows, and for one of which nothing is said.
 */
export function fieldDocs(): Docs {
  found ??= collectDocs();
  return found;
}

let found: Docs | undefined;

function collectDocs(): Docs {
  const all: Docs = { '*': {} };
  const effects = membersOf('AbilityEffects', true);
  for (const { key } of EFFECTS) all['*'][key] = oneOf(effects.get(key), key);
  for (const shape of shapes(MOVESET)) {
    const members = new Map<string, Said[]>();
    for (const type of TYPES[shape.title] ?? missing(`The table of types has no "${shape.title}".`))
      for (const [key, said] of membersOf(type)) members.set(key, [...(members.get(key) ?? []), ...said]);
    for (const key of members.keys())
      if (!(key in shape.fields)) missing(`A type of ${shape.title} knows "${key}", and its shape does not.`);
    for (const [key, field] of Object.entries(shape.fields)) {
      const said = members.get(key);
      if (field.required || (said === undefined && key in all['*'])) continue;
      const text = worded(shape, key, said ?? missing(`No type says what "${key}" of ${shape.title} is.`));
      if (text === all['*'][key]) continue;
      all[shape.title] ??= {};
      const known = all[shape.title];
      if (known[key] !== undefined && known[key] !== text) missing(`Two types differ on "${key}" of ${shape.title}.`);
      known[key] = text;
    }
  }
  return all;
}

/** `src/moveset/docs.ts`. */
export function makeDocs(): string {
  const lines = Object.entries(fieldDocs()).map(([title, docs]) => {
    const rows = Object.entries(docs).map(([key, text]) => `    ${name(key)}: ${JSON.stringify(text)},`);
    return [`  ${name(title)}: {`, ...rows, '  },'].join('\n');
  });
  return `${HEAD}${lines.join('\n')}\n};\n`;
}

const HEAD = `/**
 * What editors and the reference say of each optional field: by the title of what it belongs to; of effects, under \`*\`.
 * "npm run reference" makes it of the comments of the types. It is apart from the shapes, since a game that checks its moveset
 * carries those. Required fields are described at their shape: the sentence for a missing key says what it is.
 */
export const DOCS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
`;

function name(key: string): string {
  return /^[a-z]\w*$/i.test(key) ? key : JSON.stringify(key);
}

/** What a type says of a field. */
interface Said {
  /** The first field of the form that it belongs to. */
  readonly form: string | undefined;
  readonly text: string | undefined;
}

function worded(shape: FieldsShape, key: string, all: readonly Said[]): string {
  const texts = all.flatMap(({ text }) => text ?? []);
  const forms = shape.oneOf?.includes(key) ? [] : Object.entries(shape.together ?? {});
  const having = forms.filter(([, keys]) => keys.includes(key)).map(([form]) => form);
  if (having.length === 0 || having.length === forms.length) return oneOf(all, key);
  // Forms that say the same of it say it together.
  const distinct = [...new Set(texts)];
  return distinct
    .map((text) => {
      const these =
        distinct.length === 1 ? having : all.flatMap((said) => (said.text === text ? (said.form ?? []) : []));
      const which = new Intl.ListFormat('en', { type: 'disjunction' }).format(these.map((form) => `\`${form}\``));
      return `With ${which}: ${text.charAt(0).toLowerCase()}${text.slice(1)}`;
    })
    .join(' ');
}

function oneOf(all: readonly Said[] | undefined, key: string): string {
  const [text] = (all ?? []).flatMap((said) => said.text ?? []);
  return text ?? missing(`No type says anything of "${key}".`);
}

function missing(text: string): never {
  throw new Error(text);
}

/** Everything with keys below a shape. */
function shapes(shape: Shape, found: FieldsShape[] = []): FieldsShape[] {
  if (shape.kind === 'fields' && !found.includes(shape)) {
    found.push(shape);
    for (const field of Object.values(shape.fields)) shapes(field.shape, found);
  } else if (shape.kind === 'list' || shape.kind === 'map') shapes(shape.of, found);
  else if (shape.kind === 'either')
    for (const form of [shape.plain, shape.list, shape.fields]) if (form) shapes(form, found);
  return found;
}

const declared = new Map<string, ts.InterfaceDeclaration | ts.TypeAliasDeclaration>();

function declarationOf(type: string): ts.InterfaceDeclaration | ts.TypeAliasDeclaration | undefined {
  if (declared.size === 0)
    for (const file of readdirSync(MOVESETS, { recursive: true, encoding: 'utf8' })) {
      if (!file.endsWith('.ts')) continue;
      const text = readFileSync(join(MOVESETS, file), 'utf8');
      for (const statement of ts.createSourceFile(file, text, ts.ScriptTarget.ES2022, true).statements)
        if (ts.isInterfaceDeclaration(statement) || ts.isTypeAliasDeclaration(statement))
          declared.set(statement.name.text, statement);
    }
  return declared.get(type);
}

/** The fields of a type, with what it says of them; effects that an interface extends only if they are `inherited`. */
function membersOf(path: string, inherited = false): Map<string, Said[]> {
  const [type, field] = path.split('.');
  const found = new Map<string, Said[]>();
  const declaration = declarationOf(type) ?? missing(`There is no type ${type}.`);
  if (field === undefined) collect(declaration, undefined, found, inherited);
  else {
    const member = (declaration as ts.InterfaceDeclaration).members.find((one) => one.name?.getText() === field);
    const literal = member && firstLiteral(member);
    collect(literal ?? missing(`${path} has no fields.`), undefined, found, inherited);
  }
  return found;
}

function firstLiteral(node: ts.Node): ts.TypeLiteralNode | undefined {
  return ts.forEachChild(node, (child) => (ts.isTypeLiteralNode(child) ? child : firstLiteral(child)));
}

function collect(node: ts.Node, form: string | undefined, into: Map<string, Said[]>, inherited: boolean): void {
  if (ts.isTypeAliasDeclaration(node)) collect(node.type, form, into, inherited);
  else if (ts.isParenthesizedTypeNode(node)) collect(node.type, form, into, inherited);
  else if (ts.isUnionTypeNode(node)) for (const one of node.types) collect(one, formOf(one), into, inherited);
  else if (ts.isIntersectionTypeNode(node)) for (const one of node.types) collect(one, form, into, inherited);
  else if (ts.isTypeReferenceNode(node)) {
    const declaration = declarationOf(node.typeName.getText());
    if (declaration && !ts.isMappedTypeNode((declaration as ts.TypeAliasDeclaration).type ?? declaration))
      collect(declaration, form, into, inherited);
  } else if (ts.isTypeLiteralNode(node) || ts.isInterfaceDeclaration(node)) {
    for (const member of node.members) {
      if (!ts.isPropertySignature(member) || member.type?.kind === ts.SyntaxKind.NeverKeyword) continue;
      const key = member.name.getText();
      into.set(key, [
        ...(into.get(key) ?? []),
        { form: form ?? node.members[0]?.name?.getText(), text: docOf(member) },
      ]);
    }
    if (ts.isInterfaceDeclaration(node))
      for (const clause of node.heritageClauses ?? [])
        for (const { expression } of clause.types) {
          const name = expression.getText();
          const declaration = declarationOf(name);
          // Effects are told of by themselves.
          if (declaration && (inherited || !name.endsWith('Effects'))) collect(declaration, form, into, inherited);
        }
  }
}

/** The first field of a form. */
function formOf(node: ts.Node): string | undefined {
  if (ts.isParenthesizedTypeNode(node)) return formOf(node.type);
  if (ts.isIntersectionTypeNode(node)) return formOf(node.types[0]);
  return ts.isTypeLiteralNode(node) ? node.members[0]?.name?.getText() : undefined;
}
