import { readCode, type Account } from '../facts/index.js';
import { hostOf } from '../facts/index.js';
import { fieldUses, fieldValueProblem, filledCode, type Field } from '../fields/index.js';
import { isAnchor } from '../insert/index.js';
import {
  fieldNames,
  keyFromName,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
} from '../snapshot/index.js';
import { renamedFields, turned } from './field-names.js';
import { matchPieces } from './pieces.js';
import { RECIPE_FORMAT, type Recipe, type RecipeField, type RecipePart } from './types.js';
import { RECIPES_TEXTS } from '../texts/recipes.js';

/** A recipe made from a snippet, and what that makes of the snippet and its site. */
export interface MadeRecipe {
  readonly recipe: Recipe;
  /** The snippet's parts, accounts in them written as fields. */
  readonly parts: readonly SnapshotPart[];
  /** The snippet's link to the recipe. */
  readonly names: Readonly<Record<string, string>>;
  /** All fields of the site as they are then. */
  readonly fields: readonly Field[];
}

/**
 * A recipe of what a snippet is. Accounts in its code become fields, where filling them in gives the very same code
 * again. A snippet that follows a recipe makes that recipe's next version.
 *
 * @param followed - the newest version of the recipe that it follows
 */
export function recipeFromSnippet(
  snippet: SnapshotSnippet,
  { site, snippets }: Pick<Snapshot, 'site' | 'snippets'>,
  {
    key,
    name,
    followed,
  }: { readonly key: string; readonly name: string; readonly followed?: Recipe | undefined },
): MadeRecipe {
  const { parts, fields } = withFields(snippet, site.fields ?? []);
  const ofSite = snippet.recipe?.fields ?? {};
  const used = fieldNames({ parts });
  const toRecipe = turned(ofSite);
  const names = Object.fromEntries(used.map((name) => [toRecipe[name] ?? name, name]));
  const recipe: Recipe = {
    ...(followed ?? blank(snippet, parts, snippets)),
    ...{ format: RECIPE_FORMAT, key, name, version: (followed?.version ?? 0) + 1 },
    fields: Object.entries(names).map(([own, name]) =>
      toRecipeField(
        own,
        fields.find((field) => field.name === name)!,
        followed,
      ),
    ),
    parts: toPieces(parts, snippet, followed, turned(names)),
  };
  return { recipe, parts, names, fields };
}

function blank(
  { name, purpose, provider, needs = [] }: SnapshotSnippet,
  parts: readonly SnapshotPart[],
  snippets: readonly SnapshotSnippet[],
): Omit<Recipe, 'format' | 'key' | 'version' | 'name' | 'parts' | 'fields'> {
  const facts = parts.map(({ code }) => readCode(code));
  const hosts = facts.flatMap(({ loads }) =>
    loads.flatMap(({ kind, address }) => (kind === 'script' ? (hostOf(address) ?? []) : [])),
  );
  const globals = facts.flatMap(({ defines }) =>
    defines.flatMap((made) => (made.confidence === 'certain' ? [made.name] : [])),
  );
  const after = needs.flatMap(
    (key) => snippets.find((candidate) => candidate.key === key)?.recipe?.key ?? [],
  );
  return {
    provider: provider || name,
    summary: purpose || name,
    after: [...new Set(after)],
    recognise: {
      hosts: [...new Set(hosts)].filter((host) => !host.includes('@{')),
      addresses: [],
      globals: hosts.length > 0 ? [] : [...new Set(globals)].slice(0, 10),
    },
    steps: [],
    repeatable: false,
  };
}

function toRecipeField(name: string, field: Field, followed: Recipe | undefined): RecipeField {
  const was = followed?.fields.find((candidate) => candidate.name === name);
  const { type, label, example } = field;
  return was ?? { name, type, label, ...(example === undefined ? {} : { example }) };
}

function toPieces(
  parts: readonly SnapshotPart[],
  snippet: SnapshotSnippet,
  followed: Recipe | undefined,
  names: Readonly<Record<string, string>>,
): RecipePart[] {
  const indices = followed ? matchPieces(followed, snippet.parts, snippet.recipe?.fields ?? {}) : [];
  const taken = new Set(followed?.parts.map(({ key }) => key));
  return parts.map(({ placement, code, statement, per }, index) => {
    const piece = followed?.parts[indices.indexOf(index)];
    return {
      key: piece?.key ?? pieceKey({ placement, code }, taken),
      placement,
      code: renamedFields(code, names),
      ...(statement === undefined ? {} : { statement }),
      ...(per === 'view' ? { per } : {}),
      required: piece?.required ?? true,
    };
  });
}

function pieceKey({ placement, code }: Pick<SnapshotPart, 'placement' | 'code'>, taken: Set<string>): string {
  const { loads } = readCode(code);
  const isForScriptless = loads.length > 0 && loads.every(({ noScript }) => noScript);
  const base = isForScriptless
    ? 'without-scripts'
    : isAnchor(placement)
      ? 'in-the-page'
      : loads.some(({ kind }) => kind === 'script')
        ? 'loader'
        : 'code';
  for (let number = 1; ; number++) {
    const key = number === 1 ? base : `${base}-${number}`;
    if (taken.has(key)) continue;
    taken.add(key);
    return key;
  }
}

/** The snippet's parts with a field in the place of each account that is surely one. */
function withFields(
  { key, parts }: SnapshotSnippet,
  siteFields: readonly Field[],
): { parts: SnapshotPart[]; fields: Field[] } {
  const fields = [...siteFields];
  const byValue = new Map<string, Field>();
  let changed = [...parts];
  const accounts = parts.flatMap(({ code }) => readCode(code).accounts);
  for (const account of accounts) {
    if (byValue.has(account.value) || account.value.includes('@{')) continue;
    // A field of the site that holds just this account is what it was meant to be.
    const known = fields.find((field) => isHolding(field, account.value));
    const field = known ?? toField(account, key, fields);
    const next = changed.map((part) => ({ ...part, code: withField(part.code, account.value, field) }));
    if (next.every(({ code }, index) => code === changed[index]!.code)) continue;
    byValue.set(account.value, field);
    if (!known) fields.push(field);
    changed = next;
  }
  return { parts: changed, fields };
}

function isHolding({ value, live, staging }: Field, account: string): boolean {
  return value === account && live === undefined && staging === undefined;
}

function toField({ value, label, domain }: Account, snippet: string, fields: readonly Field[]): Field {
  const plain =
    keyFromName(label)
      .replaceAll('-', '_')
      .replace(/^[^a-z]+/, '') || 'account';
  const base = plain === 'id' || plain === 'path' ? 'account' : plain;
  let name = base.slice(0, 36);
  for (let number = 2; fields.some((field) => field.name === name); number++)
    name = `${base.slice(0, 36)}_${number}`;
  const example = value.replace(/\d/g, '0');
  return {
    name,
    type: fieldValueProblem('id', value) === undefined ? 'id' : 'text',
    label: `${label === 'path' ? RECIPES_TEXTS.account : capital(label)} at ${domain ?? snippet}`,
    ...(example === value ? {} : { example }),
    value,
  };
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Code with a field where a value stands, if filling it in gives the same code again; otherwise as it is. */
function withField(code: string, value: string, field: Field): string {
  if (!code.includes(value)) return code;
  const next = code.split(new RegExp(`(?<![\\w-])${escaped(value)}(?![\\w-])`)).join(`@{${field.name}}`);
  const isSafe = fieldUses(next).every(({ name, place }) => name !== field.name || place.kind !== 'refused');
  return isSafe && filledCode(next, [field], 'live') === filledCode(code, [], 'live') ? next : code;
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
}
