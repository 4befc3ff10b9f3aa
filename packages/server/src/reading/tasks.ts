import {
  FileBook,
  ManagedItems,
  UNPROVEN,
  barePage,
  checkDelivery,
  checkLine,
  checkPasted,
  chooseSelector,
  decodePage,
  dependencyWords,
  factWords,
  filesLoadedBy,
  findBlocks,
  findLines,
  insert,
  followRecipe,
  fixAll,
  judgeBlocks,
  judgeVisit,
  markElements,
  moveWords,
  orderReport,
  pageNeedWords,
  pageSkeleton,
  passwordForm,
  placeOnPages,
  policyNeedsOf,
  policyOverview,
  previewPage,
  probesOf,
  readPage,
  readScriptFile,
  recipeFromSnippet,
  recipeUses,
  runChecks,
  suggestNames,
  suggestParts,
  uncontainedParts,
  unmarkElements,
  wholeAddress,
  type Box,
  type Carrier,
  type ElementToName,
  type EnvironmentName,
  type ExpectedLine,
  type LoadToJudge,
  type PagePlan,
  type PageToPreview,
  type PreviewGround,
  type PasteBlocks,
  type PageSource,
  type PageText,
  type Placement,
  type PlacedPart,
  type PlannedPart,
  type PolicyGrounds,
  type Sighting,
  type Recipe,
  type SiteNames,
  type Snapshot,
  type SnapshotSnippet,
} from '@pragmatica/core';
import type { Bench, PlainKnowledge } from './bench.js';
import { readSurveyedPage } from './survey-page.js';

/** Which findings are to be fixed: those named, or all but those that somebody accepted. */
export interface FixChoice {
  readonly wanted?: readonly string[] | undefined;
  readonly accepted: readonly string[];
}

interface OfSet {
  readonly snapshot: Snapshot;
  readonly known: PlainKnowledge;
}

/** A part that is no snippet's yet. */
export interface TriedPart {
  readonly placement: Placement;
  readonly code: string;
}

/** Pages as visitors get them, with what is ours in them. */
interface OnLivePages {
  readonly ours: { readonly site: string; readonly placed: readonly PlacedPart[] };
}

function withoutOurs(pages: readonly PageText[], { site, placed }: OnLivePages['ours']): PageText[] {
  return pages.map(({ path, html }) => ({ path, html: barePage(html, site, placed, {}) }));
}

interface OfRecipes {
  readonly recipes: readonly Recipe[];
  readonly edition: string;
}

/** Longer scripts are data more often than code, and take longer to read than anybody waits. */
const MAX_SCRIPT = 1024 * 1024;

/**
 * Everything that reads what a stranger wrote. One more is one more line; each runs in a thread, within bounds of time
 * and memory, and takes and gives plain data.
 */
export const tasks = {
  /** What a pasted code is, and where it goes. */
  read: (
    { code, statement, ...of }: { code: string; statement?: string | undefined } & OfRecipes,
    bench: Bench,
  ) => {
    const { facts } = bench.memory.read(code);
    const isUnread = facts.problems.some(({ kind }) => kind === 'unread');
    const recipe = bench.book(of.edition, of.recipes).recognise(facts);
    return {
      facts,
      words: factWords(facts),
      parts: isUnread ? [] : suggestParts(code, statement),
      names: suggestNames(facts),
      recipe: recipe ? { key: recipe.key, name: recipe.name, version: recipe.version } : null,
    };
  },

  /** Selectors by which a browser is asked where parts have put something, each with the part's key. */
  probes: ({ parts }: { parts: readonly { readonly key: string; readonly code: string }[] }, bench: Bench) =>
    parts.flatMap(({ key, code }) =>
      probesOf(code, bench.memory.read(code).facts).map((selector): [string, string] => [selector, key]),
    ),

  /** What became of snippets in the page loads of a visit, and why. */
  judgeVisit: (
    { loads, probed }: { loads: readonly LoadToJudge[]; probed: readonly [string, string][] },
    bench: Bench,
  ) => judgeVisit(loads, new Map(probed), (code) => bench.memory.read(code).facts),

  check: ({ snapshot, known }: OfSet, bench: Bench) => runChecks(snapshot, bench.known(known)),

  fixAll: ({ snapshot, known, choice }: OfSet & { choice: FixChoice }, bench: Bench) => {
    const { wanted } = choice;
    const accepted = new Set(choice.accepted);
    const isMeant = ({ id }: { readonly id: string }): boolean =>
      wanted ? wanted.includes(id) : !accepted.has(id);
    const result = fixAll(snapshot, bench.known(known), isMeant);
    return { fixed: result.fixed, snapshot: result.snapshot };
  },

  order: ({ snapshot, known }: OfSet, bench: Bench) => {
    const { dependencies, ofPages, right, change } = orderReport(snapshot, bench.known(known));
    return {
      change,
      report: {
        dependencies: dependencies.map((dependency) => ({
          first: dependency.first.key,
          then: dependency.then.key,
          kind: dependency.reason.kind,
          because: dependencyWords(dependency),
          verdict: dependency.verdict,
        })),
        ofPages: ofPages.map((need) => ({
          part: need.part.key,
          name: need.use.name,
          page: need.page,
          because: pageNeedWords(need),
          verdict: need.verdict,
        })),
        cycles: right.cycles.map((parts) => parts.map(({ key }) => key)),
        moves: right.moves.map((move) => ({
          part: move.part.key,
          placement: move.placement,
          sentence: moveWords(move),
        })),
        lists: right.lists.map(({ placement, parts }) => ({ placement, parts: [...parts] })),
      },
    };
  },

  /** The parts that may not be released. */
  uncontained: ({ snapshot }: { snapshot: Snapshot }, { watch }: Bench) =>
    uncontainedParts(snapshot, (code, find) => {
      if (watch.givenUp(code) !== undefined) return UNPROVEN;
      watch.begin(code);
      const found = find();
      watch.end();
      return found;
    }),

  recipeUses: ({ snapshot, ...of }: { snapshot: Snapshot } & OfRecipes, bench: Bench) =>
    recipeUses(snapshot, bench.book(of.edition, of.recipes), (code) => bench.memory.read(code).facts),

  recipeFromSnippet: ({
    snippet,
    snapshot,
    as,
  }: {
    snippet: SnapshotSnippet;
    snapshot: Pick<Snapshot, 'site' | 'snippets'>;
    as: { key: string; name: string; followed?: Recipe | undefined };
  }) => recipeFromSnippet(snippet, snapshot, as),

  followRecipe: ({ recipe, snippet, at }: { recipe: Recipe; snippet: SnapshotSnippet; at: SiteNames }) =>
    followRecipe(recipe, snippet, at),

  skeleton: ({ path, html }: { path: string; html: string }, { watch }: Bench) => {
    watch.begin(html);
    const skeleton = pageSkeleton(path, html);
    watch.end();
    return skeleton;
  },

  /** What stands in a page of a survey. */
  surveyPage: (
    {
      source,
      edition,
      ...expected
    }: {
      source: PageSource;
      parts: readonly PlannedPart[];
      carrier: Carrier | undefined;
      edition: string;
    },
    bench: Bench,
  ) => readSurveyedPage(source, expected, edition, bench),

  /** What has been pasted into a page, by its marks. */
  pastedBlocks: ({ text }: { text: string }) => findBlocks(text),

  /** Whether a page has the parts of its plan in what was pasted into it. */
  pasted: ({
    plan,
    path,
    page,
    encoding,
    expected: { site, release, blocks, left, boxes },
  }: {
    plan: PagePlan;
    path: string;
    page: Uint8Array;
    encoding: string | undefined;
    expected: PasteBlocks & { site: string; release: number; boxes: readonly Box[] };
  }) => {
    // Marks are ASCII: whatever the page's encoding is, they can be read.
    const found = findBlocks(Buffer.from(page).toString('latin1'));
    const sights = judgeBlocks(site, path, blocks, boxes, release, found);
    return checkPasted(plan, path, blocks, left, sights, page, { encoding });
  },

  /** The scripts and style sheets that codes load, each once, by whole address. */
  filesLoaded: (
    { codes, most }: { codes: readonly { readonly code: string; readonly page: string }[]; most: number },
    { passing }: Bench,
  ) => {
    const found = new Map<string, { address: string; kind: 'script' | 'style' }>();
    for (const { code, page } of codes) {
      if (found.size >= most) break;
      for (const { address, kind } of filesLoadedBy(passing.read(code).facts)) {
        const whole = wholeAddress(address, page);
        if (whole !== undefined && !found.has(whole))
          found.set(whole, { address: whole, kind: kind === 'style' ? 'style' : 'script' });
      }
    }
    return [...found.values()].slice(0, most);
  },

  /** What a script file does; null where it cannot be read. */
  scriptFile: ({ text }: { text: string }, { watch }: Bench) => {
    if (text.length > MAX_SCRIPT || watch.givenUp(text) !== undefined) return null;
    watch.begin(text);
    const reading = readScriptFile(text);
    watch.end();
    return reading ?? null;
  },

  /** The form of a page that asks for a password; null where there is none. */
  passwordForm: ({ html, url }: { html: string; url: string }, { watch }: Bench) => {
    watch.begin(html);
    const form = passwordForm(html, url);
    watch.end();
    return form ?? null;
  },

  /** Which sightings are what snippets of a set install; null for those that are not. */
  matchSightings: (
    {
      snapshot,
      environment,
      sightings,
    }: {
      snapshot: Snapshot;
      environment: EnvironmentName;
      sightings: readonly (Sighting & { readonly forms: readonly string[] })[];
    },
    { memory }: Bench,
  ) => {
    const managed = new ManagedItems(snapshot, environment, memory);
    return sightings.map((sighting) => managed.match(sighting, sighting.forms) ?? null);
  },

  /** Which content policies pages need. */
  policyOverview: (grounds: PolicyGrounds, { memory }: Bench) => policyOverview(grounds, memory),

  /** What each part needs of a content policy. */
  policyNeeds: (
    {
      snapshot,
      environment,
      files,
    }: { snapshot: Snapshot; environment: EnvironmentName; files: PolicyGrounds['files'] },
    { memory }: Bench,
  ) => {
    const book = new FileBook(files.base, files.files);
    return Object.fromEntries(policyNeedsOf(snapshot, environment, memory, (address) => book.find(address)));
  },

  /** A page with another set in it, marked as a preview. */
  previewPage: ({ page, ground }: { page: PageToPreview; ground: PreviewGround }, { memory }: Bench) =>
    previewPage(page, ground, memory),

  /** A page with its elements numbered; with a part in it, only those that are the part's. */
  markPage: ({ html, part }: { html: string; part?: TriedPart | undefined }) => {
    if (!part) return markElements(html);
    const [outcome] = insert(html, [{ key: 'part', ...part }]).outcomes;
    if (!outcome!.inserted) return html;
    const { page } = insert(html, [{ key: 'part', ...part }]);
    const out = new TextDecoder().decode(page);
    const start = new TextDecoder().decode(
      new TextEncoder().encode(html).subarray(0, outcome!.offset),
    ).length;
    return markElements(out, { start, end: start + out.length - html.length });
  },

  /** Selectors for the element with a number in a page whose elements are numbered. */
  chooseSelector: ({
    marked,
    number,
    others,
    ours,
    ...rest
  }: Omit<ElementToName, 'page' | 'start'> & OnLivePages & { marked: PageText; number: number }) => {
    const { html, start } = unmarkElements(marked.html, number);
    const page = { path: marked.path, html };
    return chooseSelector({ ...rest, page, start, others: withoutOurs(others, ours) });
  },

  /** On which pages a part has a place. */
  placeOnPages: ({
    placement,
    code,
    pages,
    ours,
  }: TriedPart & OnLivePages & { pages: readonly PageText[] }) =>
    placeOnPages(placement, code, withoutOurs(pages, ours)),

  /** The title of a page. */
  pageTitle: ({ source }: { source: PageSource }) => readPage(source).title,

  /** Where the one line of a site stands in a page. */
  lines: ({ source, name }: { source: PageSource; name: string }) =>
    findLines(decodePage(source.bytes, source.headers['content-type']).text, name, source.url),

  broughtByLine: ({
    plan,
    page,
    encoding,
    expected,
  }: {
    plan: PagePlan;
    page: Uint8Array;
    encoding: string | undefined;
    expected: ExpectedLine;
  }) => checkLine(plan, page, expected, { encoding }),

  delivered: ({ plan, page, encoding }: { plan: PagePlan; page: Uint8Array; encoding: string | undefined }) =>
    checkDelivery(plan, page, { encoding }),
} as const;

export type TaskName = keyof typeof tasks;
export type TaskInput<N extends TaskName> = Parameters<(typeof tasks)[N]>[0];
export type TaskResult<N extends TaskName> = ReturnType<(typeof tasks)[N]>;
