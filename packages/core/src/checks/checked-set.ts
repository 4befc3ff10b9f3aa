import { DELIVERIES, type Box, type Coming } from '../deliver/index.js';
import { onPage, type OnPage, type PageSkeleton } from '../contain/index.js';
import { memoizeByObject } from '../memoize/by-object.js';
import { isInHead, placementKey, type Placement } from '../insert/index.js';
import {
  ReachAlgebra,
  pageAddress,
  pageMatcher,
  whyOutOfReach,
  withoutGroups,
  witnessWords,
  type EnvironmentName,
  type PageLoad,
  type Reach,
} from '../reach/index.js';
import {
  RecipeBook,
  checklist,
  recipeOf,
  type ChecklistItem,
  type Recipe,
  type StepTick,
} from '../recipes/index.js';
import {
  filledSnapshot,
  orderedParts,
  reachOf,
  type Snapshot,
  type SnapshotSnippet,
} from '../snapshot/index.js';
import {
  FactsCache,
  whenFileRuns,
  type Definition,
  type Facts,
  type Load,
  type ReadCode,
} from '../facts/index.js';
import {
  FileBook,
  ManagedItems,
  filesLoadedBy,
  type AbsentPart,
  type SightingMatch,
} from '../survey/index.js';
import type { KnownFiles, KnownHost, KnownPolicies, KnownSighting, Knowledge } from './knowledge.js';
import { PageCode, type PageThing, type PagesInReach } from './page-code.js';
import type { ReadPart } from './read-part.js';
import { SetOrder } from './set-order.js';
import type { Way } from './way.js';

const NO_RECIPES = new RecipeBook();
const NO_FILES: KnownFiles = { base: 'http://localhost', files: [] };

export type PageOutcome = OnPage & { readonly path: string };

/** A sighting that is what a part of ours installs. */
export interface HardCoded {
  readonly sighting: KnownSighting;
  readonly match: SightingMatch;
  readonly part: ReadPart;
}

/** A set made ready for the checks: code read, parts in page order, pages comparable. */
export class CheckedSet {
  readonly snapshot: Snapshot;
  /** All parts in page order, also of snippets that are off. */
  readonly parts: readonly ReadPart[];
  /** Those of snippets that are on. */
  readonly running: readonly ReadPart[];
  /** Milliseconds since 1970. */
  readonly now: number;
  readonly memory: FactsCache;
  readonly reaches: ReachAlgebra;
  #byKey: ReadonlyMap<string, ReadPart> | undefined;
  #sources: ReadonlyMap<string, string> | undefined;
  #order: SetOrder | undefined;
  #unread: readonly ReadPart[] | undefined;
  readonly book: RecipeBook;
  readonly #skeletons: readonly PageSkeleton[];
  readonly #hosts: readonly KnownHost[];
  readonly boxes: readonly Box[];
  readonly lineAddress: string | undefined;
  #ways: ReadonlyMap<EnvironmentName, readonly Way[]> | undefined;
  readonly #ticks: readonly StepTick[];
  readonly #heeded: readonly KnownSighting[];
  readonly absent: readonly AbsentPart[];
  readonly policies: readonly KnownPolicies[];
  /** Paths of the site's pages. */
  readonly paths: readonly string[];
  /** The site has more pages than those that are known. */
  readonly hasMorePages: boolean;
  readonly files: FileBook;
  /** What the pages have themselves. */
  readonly pageCode: PageCode;
  #hardCoded: readonly HardCoded[] | undefined;
  #recipes: ReadonlyMap<string, Recipe> | undefined;
  #installs: ReadonlyMap<string, readonly SnapshotSnippet[]> | undefined;

  constructor(
    snapshot: Snapshot,
    {
      memory = new FactsCache(),
      paths = [],
      skeletons = [],
      hosts = [],
      boxes = [],
      lineAddress,
      now = 0,
      book = NO_RECIPES,
      ticks = [],
      seen = [],
      ignored = [],
      absent = [],
      policies = [],
      groups = [],
      hasMorePages = false,
      files = NO_FILES,
    }: Knowledge = {},
  ) {
    this.snapshot = snapshot;
    this.memory = memory;
    this.book = book;
    this.#hosts = hosts;
    this.boxes = boxes;
    this.lineAddress = lineAddress;
    this.#ticks = ticks;
    const isIgnored = new Set(ignored);
    this.#heeded = seen.filter(({ key }) => !isIgnored.has(key));
    this.absent = absent;
    this.policies = policies;
    this.paths = paths;
    this.hasMorePages = hasMorePages;
    this.files = fileBook(files);
    this.pageCode = new PageCode(seen, groups, this.files, memory, (snippet, page) =>
      this.runsOn(snippet, page),
    );
    this.#skeletons = skeletons;
    this.parts = orderedParts(filledWhereItRuns(snapshot)).map((placed, position) => ({
      ...placed,
      ...readOf(memory.read(placed.part.code), this.files),
      position,
      isOn: placed.snippet.state === 'on',
      isInHead: isInHead(placed.part.placement),
    }));
    this.running = this.parts.filter(({ isOn }) => isOn);
    this.now = now;
    const rules = snapshot.snippets.map(({ pages }) => pages);
    this.reaches = new ReachAlgebra({ site: snapshot.site, paths, hosts, rules, from: now });
  }

  /** What the site's own pages are made of, as far as they are known, of those that a part runs on. */
  skeletonsOf({ snippet }: ReadPart): readonly PageSkeleton[] {
    return this.#skeletons.filter(({ path }) => this.reaches.holdsPage(snippet.pages, pageAddress(path)));
  }

  /** What becomes of a part on the site's own pages, as far as they are known, of those that it runs on. */
  onPages(part: ReadPart): readonly PageOutcome[] {
    const { placement } = part.part;
    return this.skeletonsOf(part).map((skeleton) => ({
      path: skeleton.path,
      ...this.memory.watched(part.read, () => outcomeOn(skeleton, part.read, placement)),
    }));
  }

  /** The newest version of the recipe that a snippet is an install of, applied or pasted by hand. */
  recipeOf({ key }: Pick<SnapshotSnippet, 'key'>): Recipe | undefined {
    this.#recipes ??= this.#findRecipes();
    return this.#recipes.get(key);
  }

  #findRecipes(): Map<string, Recipe> {
    if (this.book.newest.length === 0) return new Map();
    const facts = new Map<string, Facts[]>();
    for (const part of this.parts) {
      const list = facts.get(part.snippet.key);
      if (list) list.push(part.facts);
      else facts.set(part.snippet.key, [part.facts]);
    }
    return new Map(
      this.snapshot.snippets.flatMap((snippet) => {
        const recipe = recipeOf(snippet, facts.get(snippet.key) ?? [], this.book);
        return recipe ? [[snippet.key, recipe] as const] : [];
      }),
    );
  }

  /** Keys of the snippets that must run before one, as its recipe says. */
  recipeNeeds({ snippet }: Pick<ReadPart, 'snippet'>): string[] {
    const after = this.recipeOf(snippet)?.after ?? [];
    return after.flatMap((recipe) => this.installs(recipe).map(({ key }) => key));
  }

  /** The snippets that are installs of a recipe, in the order of the set. */
  installs(recipe: string): readonly SnapshotSnippet[] {
    this.#installs ??= this.#findInstalls();
    return this.#installs.get(recipe) ?? [];
  }

  #findInstalls(): Map<string, SnapshotSnippet[]> {
    const installs = new Map<string, SnapshotSnippet[]>();
    for (const snippet of this.snapshot.snippets) {
      const recipe = this.recipeOf(snippet);
      if (!recipe) continue;
      const list = installs.get(recipe.key);
      if (list) list.push(snippet);
      else installs.set(recipe.key, [snippet]);
    }
    return installs;
  }

  /** What is to be done at providers for the snippets that are on, and what of it somebody has ticked. */
  get checklist(): ChecklistItem[] {
    const uses = new Map<Recipe, SnapshotSnippet[]>();
    for (const snippet of this.snapshot.snippets) {
      const recipe = snippet.state === 'on' ? this.recipeOf(snippet) : undefined;
      if (recipe) uses.set(recipe, [...(uses.get(recipe) ?? []), snippet]);
    }
    return checklist(
      [...uses].map(([recipe, snippets]) => ({ recipe, snippets })),
      this.#hosts,
      this.#ticks,
    );
  }

  /** Whether two snippets are installs of one recipe that may stand on a page only once. */
  isOfOneRecipe(a: SnapshotSnippet, b: SnapshotSnippet): boolean {
    const recipe = this.recipeOf(a);
    return recipe !== undefined && !recipe.repeatable && recipe === this.recipeOf(b);
  }

  /** Whether a host is the site's own; an address without one is. */
  isOwnHost(host: string | undefined): boolean {
    return host === undefined || this.#hosts.some((one) => one.host === host);
  }

  /** Whether the site answers in an environment, as far as its hosts are known. */
  hasHost(environment: EnvironmentName): boolean {
    return this.#hosts.length === 0 || this.#hosts.some((host) => host.environment === environment);
  }

  /** The site's hosts in an environment that it does not have in the other as well. */
  hostsOf(environment: EnvironmentName): string[] {
    const others = new Set(
      this.#hosts.filter((one) => one.environment !== environment).map(({ host }) => host),
    );
    return this.#hosts.flatMap((one) =>
      one.environment === environment && !others.has(one.host) ? [one.host] : [],
    );
  }

  /** The ways in which what visitors get of a snippet comes to them. */
  waysOf({ limits }: Pick<SnapshotSnippet, 'limits'>): readonly Way[] {
    this.#ways ??= new Map(
      (['live', 'staging'] as const).map((environment) => [environment, this.#waysTo(environment)]),
    );
    return this.#ways.get(limits?.environment ?? 'live')!;
  }

  #waysTo(environment: EnvironmentName): Way[] {
    return DELIVERIES.flatMap((delivery) => {
      const hosts = this.#hosts.filter(
        (one) => one.environment === environment && (one.delivery ?? 'gateway') === delivery.key,
      );
      return hosts.length === 0 ? [] : [{ delivery, hosts: hosts.map(({ host }) => host) }];
    });
  }

  /** How a part comes into its pages in a way; undefined where it does not. */
  comes(part: ReadPart, { delivery }: Way): Coming | undefined {
    return delivery.comes(part, { snapshot: this.snapshot, boxes: this.boxes, pages: this.paths });
  }

  /** Hosts whose pages a part comes into in one of these manners. */
  hostsWhere(part: ReadPart, manners: readonly Coming[]): string[] {
    return this.waysOf(part.snippet).flatMap((way) => {
      const coming = this.comes(part, way);
      return coming !== undefined && manners.includes(coming) ? way.hosts : [];
    });
  }

  /** What the pages have themselves that somebody may be told of. */
  get heededThings(): readonly PageThing[] {
    const heeded = new Set(this.#heeded.map(({ key }) => key));
    return this.pageCode.things.filter(({ sighting }) => heeded.has(sighting.key));
  }

  /** What stands in the site itself and is what a part installs, each with that part; also where its type lets nothing run. */
  get hardCoded(): readonly HardCoded[] {
    this.#hardCoded ??= this.#findHardCoded();
    return this.#hardCoded;
  }

  #findHardCoded(): HardCoded[] {
    const others = this.#heeded.filter(
      ({ seen: { others: on, states } }) =>
        on.pages > 0 && (states.includes('active') || states.includes('inert-type')),
    );
    if (others.length === 0) return [];
    const managed = new ManagedItems(this.snapshot, 'live', this.memory);
    return others.flatMap((sighting) => {
      const match = managed.match(sighting, sighting.seen.forms);
      const part = match && this.running.find(({ key }) => key === match.part);
      return part ? [{ sighting, match, part }] : [];
    });
  }

  /** Whether it is known what a file does that a part loads. */
  isRead(load: Load): boolean {
    return !this.files.isUnread(load);
  }

  /** What needs what, worked out when it is first asked for. */
  get order(): SetOrder {
    return (this.#order ??= new SetOrder(this));
  }

  /** Whether scripts run on a page of which nobody knows what they do: its own, or those that snippets load there. @param snippet - that surely runs there */
  holdsUnread({ group, page }: PagesInReach, snippet: SnapshotSnippet): boolean {
    this.#unread ??= this.running.filter(({ facts }) =>
      facts.loads.some((load) => this.files.isUnread(load)),
    );
    return (
      this.pageCode.isOpaque(group.composition) ||
      this.#unread.some((part) => part.snippet === snippet || this.runsOn(part.snippet, page))
    );
  }

  /** The code of a part by its key; empty where there is none. */
  codeOf(key: string): string {
    this.#byKey ??= new Map(this.parts.map((part) => [part.key, part]));
    return this.#byKey.get(key)?.code ?? '';
  }

  /** The code of a part as it is written, its fields not filled in. */
  sourceOf(key: string): string {
    this.#sources ??= new Map(orderedParts(this.snapshot).map((placed) => [placed.key, placed.part.code]));
    return this.#sources.get(key) ?? '';
  }

  /** Whether a snippet runs on a page of the live site, in some page load. @param page - a path */
  runsOn({ pages, limits }: SnapshotSnippet, page: string): boolean {
    if (limits?.environment === 'staging') return false;
    const rules = withoutGroups(pages, this.snapshot.site.pageGroups ?? []);
    return pageMatcher(rules).match(page).matches;
  }

  /** A page load in which both run, in words: "/book, on a phone, Thursday 10:00". */
  meeting(a: ReadPart, b: ReadPart): string | undefined {
    return this.#meeting(reachOf(a.snippet), reachOf(b.snippet));
  }

  /** A page load in which one snippet runs and another does not, in words. */
  outside(inner: SnapshotSnippet, outer: SnapshotSnippet): string | undefined {
    if (inner === outer) return undefined;
    const found = this.reaches.outside(reachOf(inner), reachOf(outer));
    return found && witnessWords(found.witness, this.snapshot.site, this.now);
  }

  /** A page load in which a snippet runs and none of the others does, in words; undefined where none is found. */
  outsideAll(inner: SnapshotSnippet, outers: readonly SnapshotSnippet[]): string | undefined {
    const { site } = this.snapshot;
    const isHeld = (load: PageLoad): boolean =>
      outers.some((outer) => whyOutOfReach(reachOf(outer), site, load).length === 0);
    for (const outer of outers) {
      const found = this.reaches.outside(reachOf(inner), reachOf(outer));
      if (!found) return undefined;
      const isAlone = outers.length === 1 || !isHeld(found.witness);
      if (isAlone) return witnessWords(found.witness, site, this.now);
    }
    return undefined;
  }

  #meeting(a: Reach, b: Reach): string | undefined {
    const witness = this.reaches.meets(a, b);
    return witness && witnessWords(witness, this.snapshot.site, this.now);
  }
}

/** What visitors of the live site get is what is looked at; of a snippet for staging only, what staging gets. */
function filledWhereItRuns(snapshot: Snapshot): Snapshot {
  const live = filledSnapshot(snapshot, 'live');
  if (live === snapshot) return snapshot;
  const staging = filledSnapshot(snapshot, 'staging');
  return {
    ...live,
    snippets: live.snippets.map((snippet, index) =>
      snippet.limits?.environment === 'staging' ? staging.snippets[index]! : snippet,
    ),
  };
}

function readOf(read: ReadCode, files: FileBook): { read: ReadCode; code: string; facts: Facts } {
  return { read, code: read.code, facts: factsWithFiles(files)(read) };
}

const fileBook = memoizeByObject(({ base, files }: KnownFiles) => new FileBook(base, files));

/** What code does, with what the files do that it loads, as far as these are known. */
const factsWithFiles = memoizeByObject((files: FileBook) =>
  memoizeByObject(({ facts }: ReadCode): Facts => {
    const brought = filesLoadedBy(facts).flatMap((load) =>
      (files.find(load.address)?.defines ?? []).map((name): Definition => ({
        name,
        when: whenFileRuns(load),
        what: 'value',
        isStub: false,
        from: load.address,
        range: load.range,
        confidence: 'likely',
      })),
    );
    const own = new Set(facts.defines.map(({ name }) => name));
    const added = brought.filter(({ name }) => !own.has(name));
    return added.length === 0 ? facts : { ...facts, defines: [...facts.defines, ...added] };
  }),
);

/** By skeleton, code and placement: sites whose pages are made alike share nothing but time. */
const outcomes = memoizeByObject<PageSkeleton, (read: ReadCode) => Map<string, OnPage>>(() =>
  memoizeByObject(() => new Map()),
);

function outcomeOn(skeleton: PageSkeleton, read: ReadCode, placement: Placement): OnPage {
  const kept = outcomes(skeleton)(read);
  const key = placementKey(placement);
  let outcome = kept.get(key);
  if (!outcome) kept.set(key, (outcome = onPage(skeleton, read.code, placement)));
  return outcome;
}
