import { canonicalJson, type Snapshot, type SnapshotPart, type SnapshotSnippet } from '../snapshot/index.js';

/** What something was or is, by path; what there is not is left out. */
export type Values = Readonly<Record<string, unknown>>;

/**
 * What one change did to a snippet, or to what a set says of its site. Whole where the snippet is new or gone; otherwise only the
 * paths that differ, so that moving one part among thousands stays small.
 */
export type DraftChange =
  | {
      readonly kind: 'snippet';
      readonly key: string;
      readonly before: null;
      readonly after: SnapshotSnippet;
    }
  | {
      readonly kind: 'snippet';
      readonly key: string;
      readonly before: SnapshotSnippet;
      readonly after: null;
    }
  | {
      readonly kind: 'snippet' | 'site';
      readonly key: string;
      readonly before: Values;
      readonly after: Values;
    };

/** Whether something that the trail says was done is a change of a draft: to a snippet, or to what a set says of its site. */
export function isDraftChange(change: { readonly kind: string }): change is DraftChange {
  return change.kind === 'snippet' || change.kind === 'site';
}

const SNIPPET_PATHS = ['name', 'purpose', 'provider', 'note', 'state', 'pages', 'needs', 'recipe'] as const;
const PART_PATHS = ['placement', 'rank', 'code', 'statement', 'per'] as const;
const SITE_PATHS = ['name', 'timeZone', 'consent'] as const;

/** What was done to a snippet; undefined where nothing was. @param before - null where it was not there */
export function snippetChange(
  before: SnapshotSnippet | null,
  after: SnapshotSnippet | null,
): DraftChange | undefined {
  if (!before) return after ? { kind: 'snippet', key: after.key, before, after } : undefined;
  if (!after) return { kind: 'snippet', key: before.key, before, after };
  return changed('snippet', before.key, snippetValues(before, after), snippetValues(after, before));
}

/** What was done to what a set says of its site; undefined where nothing was. */
export function siteChange(before: Snapshot['site'], after: Snapshot['site']): DraftChange | undefined {
  return changed('site', after.key, siteValues(before), siteValues(after));
}

/** What differs between two sets of one site. */
export function draftChanges(before: Snapshot, after: Snapshot): DraftChange[] {
  const was = new Map(before.snippets.map((snippet) => [snippet.key, snippet]));
  const is = new Map(after.snippets.map((snippet) => [snippet.key, snippet]));
  const keys = new Set([...was.keys(), ...is.keys()]);
  return [
    siteChange(before.site, after.site),
    ...[...keys].map((key) => snippetChange(was.get(key) ?? null, is.get(key) ?? null)),
  ].filter((change) => change !== undefined);
}

function changed(
  kind: 'snippet' | 'site',
  key: string,
  before: Values,
  after: Values,
): DraftChange | undefined {
  const differing = differingValues(before, after);
  return differing && { kind, key, ...differing };
}

/** Both without what is the same in them; undefined where all is. */
export function differingValues(
  before: Values,
  after: Values,
): { readonly before: Values; readonly after: Values } | undefined {
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    (name) => !isSame(before[name], after[name]),
  );
  if (names.length === 0) return undefined;
  return { before: picked(before, names), after: picked(after, names) };
}

/** Whether two values are the same as data. */
export function isSame(a: unknown, b: unknown): boolean {
  return a === b || canonicalJson({ v: a }) === canonicalJson({ v: b });
}

function picked(values: Values, paths: readonly string[]): Values {
  return Object.fromEntries(paths.filter((path) => path in values).map((path) => [path, values[path]]));
}

/** By path; parts one by one where there are as many of them as in the other, otherwise as a whole. */
function snippetValues(snippet: SnapshotSnippet, other: SnapshotSnippet): Values {
  const values: Record<string, unknown> = {};
  for (const path of SNIPPET_PATHS) if (snippet[path] !== undefined) values[path] = snippet[path];
  for (const [name, limit] of Object.entries(snippet.limits ?? {})) values[`limits/${name}`] = limit;
  if (snippet.parts.length !== other.parts.length) values['parts'] = snippet.parts;
  else snippet.parts.forEach((part, index) => Object.assign(values, partValues(part, index)));
  return values;
}

function partValues(part: SnapshotPart, index: number): Values {
  return Object.fromEntries(
    PART_PATHS.filter((path) => part[path] !== undefined).map((path) => [
      `parts/${index + 1}/${path}`,
      part[path],
    ]),
  );
}

/** By path: page groups and fields one by one. */
export function siteValues(site: Snapshot['site']): Values {
  const values: Record<string, unknown> = {};
  for (const path of SITE_PATHS) if (site[path] !== undefined) values[path] = site[path];
  for (const group of site.pageGroups ?? []) values[`pageGroups/${group.key}`] = group;
  for (const field of site.fields ?? []) values[`fields/${field.name}`] = field;
  return values;
}
