import { placementKey, placementWords, type Placement } from '../insert/index.js';
import { fieldValue, filledCode, type Field } from '../fields/index.js';
import {
  ENVIRONMENT_NAMES,
  limitsWords,
  listWords,
  pageRulesWords,
  reachWords,
  type EnvironmentName,
} from '../reach/index.js';
import {
  canonicalJson,
  fieldNames,
  orderedParts,
  reachOf,
  type RecipeLink,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
  type SnippetState,
} from '../snapshot/index.js';
import { RELEASE_TEXTS } from '../texts/release.js';
import { say } from '../texts/say.js';
import { lazyTexts } from '../texts/lazy-texts.js';

export type ChangeKind =
  | 'added'
  | 'removed'
  | 'state'
  | 'pages'
  | 'reach'
  | 'site'
  | 'field'
  | 'code'
  | 'parts'
  | 'placement'
  | 'details'
  | 'order';

/** One difference, in a sentence that says what a visitor or an administrator will notice. */
export interface Change {
  readonly kind: ChangeKind;
  /** Key of the snippet; for `order` the one that moved; empty where it is about the whole site. */
  readonly snippet: string;
  readonly message: string;
  /** Whether it changes what visitors get; a new note does not. */
  readonly visible: boolean;
}

/** What differs between two snapshots, in words, in the order of the later one's snippets. */
export function difference(from: Snapshot, to: Snapshot): Change[] {
  const before = new Map(from.snippets.map((snippet) => [snippet.key, snippet]));
  const after = new Map(to.snippets.map((snippet) => [snippet.key, snippet]));
  const changes: Change[] = siteChanges(from.site, to);
  for (const snippet of to.snippets) {
    const old = before.get(snippet.key);
    changes.push(...(old ? snippetChanges(old, snippet, from.site, to.site) : [added(snippet, to.site)]));
  }
  for (const snippet of from.snippets) if (!after.has(snippet.key)) changes.push(removed(snippet));
  return [...changes, ...orderChanges(from, to)];
}

const NEW: Readonly<
  Record<SnippetState, (typeof RELEASE_TEXTS)['isNew' | 'isNewButOff' | 'isNewButArchived']>
> = lazyTexts({
  on: () => RELEASE_TEXTS.isNew,
  off: () => RELEASE_TEXTS.isNewButOff,
  archived: () => RELEASE_TEXTS.isNewButArchived,
});

function added(snippet: SnapshotSnippet, site: Snapshot['site']): Change {
  const places = snippet.parts.map((part) => placementWords(part.placement)).join(' and ');
  return {
    kind: 'added',
    snippet: snippet.key,
    message: say(NEW[snippet.state], {
      name: snippet.name,
      places: places || RELEASE_TEXTS.noCodeYet,
      reach: reachWords(reachOf(snippet), site),
    }),
    visible: snippet.state === 'on',
  };
}

function removed(snippet: SnapshotSnippet): Change {
  return {
    kind: 'removed',
    snippet: snippet.key,
    message: say(RELEASE_TEXTS.nameGone, { name: snippet.name }),
    visible: snippet.state === 'on',
  };
}

/** What the site defines for all its snippets. */
function siteChanges(old: Snapshot['site'], { site: now, snippets }: Snapshot): Change[] {
  const changes: Change[] = [];
  const report = (message: string): void => {
    changes.push({ kind: 'site', snippet: '', message, visible: true });
  };
  const groupsWere = new Map((old.pageGroups ?? []).map((group) => [group.key, group]));
  for (const { key, name, patterns } of now.pageGroups ?? []) {
    const was = groupsWere.get(key);
    groupsWere.delete(key);
    if (!was) report(say(RELEASE_TEXTS.pageGroupName, { name, list: listWords(patterns) }));
    else if (was.patterns.join() !== patterns.join())
      report(
        say(RELEASE_TEXTS.pageGroupNameNow, {
          name,
          patterns: listWords(patterns),
          before: listWords(was.patterns),
        }),
      );
  }
  for (const { name } of groupsWere.values()) report(say(RELEASE_TEXTS.pageGroupNameGone, { name }));
  if (canonicalJson({ consent: old.consent }) !== canonicalJson({ consent: now.consent }))
    report(RELEASE_TEXTS.whatVisitorsAgree);
  changes.push(...fieldChanges(old, now, new Set(snippets.flatMap(usedFields))));
  if (old.timeZone !== now.timeZone)
    report(say(RELEASE_TEXTS.hoursThoseTimezone, { timeZone: now.timeZone, before: old.timeZone }));
  return changes;
}

function usedFields(snippet: SnapshotSnippet): string[] {
  return snippet.state === 'on' ? fieldNames(snippet) : [];
}

/** @param used - names of the fields that visitors get the values of */
function fieldChanges(old: Snapshot['site'], now: Snapshot['site'], used: ReadonlySet<string>): Change[] {
  const before = new Map((old.fields ?? []).map((field) => [field.name, field]));
  const changes: Change[] = [];
  const report = (message: string, visible: boolean): void => {
    changes.push({ kind: 'field', snippet: '', message, visible });
  };
  for (const field of now.fields ?? []) {
    const was = before.get(field.name);
    before.delete(field.name);
    // Code that uses it from now on is a change of its own.
    if (!was)
      report(say(RELEASE_TEXTS.fieldNameNew, { name: field.name, value: valueWords(field, 'live') }), false);
    else
      for (const environment of ENVIRONMENT_NAMES) {
        const [then, is] = [valueWords(was, environment), valueWords(field, environment)];
        if (then !== is)
          report(
            say(RELEASE_TEXTS.fieldNameNow, { name: field.name, is, environment, then }),
            used.has(field.name),
          );
      }
  }
  for (const name of before.keys()) report(say(RELEASE_TEXTS.fieldNameGone, { name }), false);
  return changes;
}

function valueWords(field: Field, environment: EnvironmentName): string {
  const value = fieldValue(field, environment);
  return value === undefined || value === '' ? 'empty' : say(RELEASE_TEXTS.quotedValue, { value });
}

function snippetChanges(
  old: SnapshotSnippet,
  now: SnapshotSnippet,
  oldSite: Snapshot['site'],
  site: Snapshot['site'],
): Change[] {
  const changes: Change[] = [];
  const runs = old.state === 'on' || now.state === 'on';
  const report = (kind: ChangeKind, text: string, visible = runs): void => {
    changes.push({
      kind,
      snippet: now.key,
      message: say(RELEASE_TEXTS.changeOf, { name: now.name, text }),
      visible,
    });
  };
  if (old.state !== now.state) report('state', stateWords(old.state, now.state));
  if (old.name !== now.name) report('details', say(RELEASE_TEXTS.wasCalledName, { name: old.name }), false);
  const pagesWere = pageRulesWords(old.pages, oldSite.pageGroups);
  const pagesAre = pageRulesWords(now.pages, site.pageGroups);
  if (pagesWere !== pagesAre) report('pages', say(RELEASE_TEXTS.nowRunsPagesare, { pagesAre, pagesWere }));
  const limitsWere = limitsText(old, oldSite);
  const limitsAre = limitsText(now, site);
  if (limitsWere !== limitsAre)
    report('reach', say(RELEASE_TEXTS.nowRunsLimitsare, { limitsAre, limitsWere }));
  partChanges(old.parts, now.parts, report, (was, is) =>
    ENVIRONMENT_NAMES.every(
      (environment) =>
        filledCode(was, oldSite.fields ?? [], environment) === filledCode(is, site.fields ?? [], environment),
    ),
  );
  const followed = recipeWords(old.recipe, now.recipe);
  if (followed !== undefined) report('details', followed, false);
  const details = changedDetails(old, now);
  if (details.length > 0)
    report('details', say(RELEASE_TEXTS.hasNewList, { list: listWords(details) }), false);
  return changes;
}

function limitsText({ limits = {} }: SnapshotSnippet, site: Snapshot['site']): string {
  return limitsWords(limits, site).join(', ') || RELEASE_TEXTS.alwaysEverybody;
}

/** What is kept about a snippet and no visitor gets, as far as it differs. */
function changedDetails(old: SnapshotSnippet, now: SnapshotSnippet): string[] {
  const statements = ({ parts }: SnapshotSnippet): string =>
    JSON.stringify(parts.map(({ statement = '' }) => statement));
  return [
    ...(['purpose', 'provider', 'note'] as const)
      .filter((field) => old[field] !== now[field])
      .map((field) => RELEASE_TEXTS.details[field]),
    ...((old.needs ?? []).join() === (now.needs ?? []).join() ? [] : [RELEASE_TEXTS.details.needs]),
    ...(old.parts.length !== now.parts.length || statements(old) === statements(now)
      ? []
      : [RELEASE_TEXTS.wordProvider]),
  ];
}

/** What is new in what a snippet follows; undefined where nothing is. */
function recipeWords(old: RecipeLink | undefined, now: RecipeLink | undefined): string | undefined {
  if (old?.key === now?.key && old?.version === now?.version) return undefined;
  if (!now) return say(RELEASE_TEXTS.noLongerFollows, { key: old!.key });
  return old?.key === now.key
    ? say(RELEASE_TEXTS.followsVersionVersion, { version: now.version, before: old.version })
    : say(RELEASE_TEXTS.followsRecipeKey, { key: now.key });
}

function stateWords(old: SnippetState, now: SnippetState): string {
  if (now === 'on') return old === 'archived' ? RELEASE_TEXTS.takenOutArchive : RELEASE_TEXTS.switched;
  if (now === 'off')
    return old === 'archived' ? RELEASE_TEXTS.takenOutArchiveStays : RELEASE_TEXTS.switchedOff;
  return RELEASE_TEXTS.archivedNoLonger;
}

function partChanges(
  old: readonly SnapshotPart[],
  now: readonly SnapshotPart[],
  report: (kind: ChangeKind, text: string, visible?: boolean) => void,
  isSameForVisitors: (was: string, is: string) => boolean,
): void {
  const numbered = Math.max(old.length, now.length) > 1;
  now.forEach((part, index) => {
    const was = old[index];
    const which = numbered ? say(RELEASE_TEXTS.partNumber, { number: index + 1 }) : RELEASE_TEXTS.itsCode;
    if (!was) {
      report('parts', say(RELEASE_TEXTS.hasOnePart, { placement: placementWords(part.placement) }));
      return;
    }
    if (placementKey(was.placement) !== placementKey(part.placement)) {
      report(
        'placement',
        say(RELEASE_TEXTS.movesWhichNow, {
          which,
          placement: placementWords(part.placement),
          before: placementWords(was.placement),
        }),
      );
    }
    if ((was.per ?? 'load') !== (part.per ?? 'load'))
      report(
        'parts',
        say(part.per === 'view' ? RELEASE_TEXTS.runsPerView : RELEASE_TEXTS.runsPerLoad, { which }),
      );
    if (was.code === part.code) return;
    if (isSameForVisitors(was.code, part.code))
      report('code', say(RELEASE_TEXTS.hasWhichWritten, { which }), false);
    else
      report(
        'code',
        say(numbered ? RELEASE_TEXTS.partHasNewCode : RELEASE_TEXTS.hasNewCode, {
          number: index + 1,
          lines: lineWords(was.code, part.code),
        }),
      );
  });
  for (const part of old.slice(now.length))
    report('parts', say(RELEASE_TEXTS.noLongerHas, { placement: placementWords(part.placement) }));
}

/** "2 lines added, 1 line removed", by multiset of lines: exact for what is counted, blind to moved lines. */
function lineWords(old: string, now: string): string {
  const oldLines = old.split(/\r\n?|\n/);
  const nowLines = now.split(/\r\n?|\n/);
  const added = countMissing(nowLines, oldLines);
  const removed = countMissing(oldLines, nowLines);
  if (added === 0 && removed === 0) return RELEASE_TEXTS.linesMoved;
  if (added === removed) return say(RELEASE_TEXTS.linesChanged, { count: added });
  return [
    added > 0 ? say(RELEASE_TEXTS.linesAdded, { count: added }) : '',
    removed > 0 ? say(RELEASE_TEXTS.linesRemoved, { count: removed }) : '',
  ]
    .filter(Boolean)
    .join(', ');
}

function countMissing(of: readonly string[], from: readonly string[]): number {
  const left = new Map<string, number>();
  for (const line of from) left.set(line, (left.get(line) ?? 0) + 1);
  let missing = 0;
  for (const line of of) {
    const count = left.get(line) ?? 0;
    if (count > 0) left.set(line, count - 1);
    else missing++;
  }
  return missing;
}

/** The fewest parts that must have moved: those outside a longest common order of what both sides have. */
function orderChanges(from: Snapshot, to: Snapshot): Change[] {
  const changes: Change[] = [];
  const before = byPlacement(from);
  for (const [key, now] of byPlacement(to)) {
    const was = before.get(key);
    if (!was) continue;
    const position = new Map(was.keys.map((part, index) => [part, index]));
    const common = now.keys.filter((part) => position.has(part));
    const kept = new Set(longestIncreasing(common.map((part) => position.get(part)!)));
    common.forEach((part, index) => {
      if (kept.has(index)) return;
      const snippet = now.snippets.get(part)!;
      const next = common[index + 1];
      const nextName = next === undefined ? undefined : now.snippets.get(next)!.name;
      const where = nextName === undefined ? 'last' : say(RELEASE_TEXTS.rightBeforeNextname, { nextName });
      changes.push({
        kind: 'order',
        snippet: snippet.key,
        message: say(RELEASE_TEXTS.nameNowComes, {
          name: snippet.name,
          where,
          placement: placementWords(now.placement),
        }),
        visible: snippet.state === 'on',
      });
    });
  }
  return changes;
}

interface PlacementKeys {
  readonly placement: Placement;
  readonly keys: string[];
  readonly snippets: Map<string, SnapshotSnippet>;
}

function byPlacement(snapshot: Snapshot): Map<string, PlacementKeys> {
  const groups = new Map<string, PlacementKeys>();
  for (const { key, snippet, part } of orderedParts(snapshot)) {
    const group = placementKey(part.placement);
    if (!groups.has(group)) groups.set(group, { placement: part.placement, keys: [], snippets: new Map() });
    groups.get(group)!.keys.push(key);
    groups.get(group)!.snippets.set(key, snippet);
  }
  return groups;
}

/** Indices of one longest strictly increasing subsequence, by patience sorting in O(n log n). */
export function longestIncreasing(values: readonly number[]): number[] {
  const tails: number[] = [];
  const previous: number[] = [];
  values.forEach((value, index) => {
    let low = 0;
    let high = tails.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (values[tails[middle]!]! < value) low = middle + 1;
      else high = middle;
    }
    previous[index] = low > 0 ? tails[low - 1]! : -1;
    tails[low] = index;
  });
  const chain: number[] = [];
  for (let index = tails.at(-1) ?? -1; index >= 0; index = previous[index]!) chain.push(index);
  return chain.reverse();
}
