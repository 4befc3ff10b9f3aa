import type { Box, Coming } from '../deliver/index.js';
import { onPage, type OnPage, type PageSkeleton } from '../contain/index.js';
import { memoizeByObject } from '../memoize/by-object.js';
import { placementKey, type Placement } from '../insert/index.js';
import { findDependencies, type OrderSet } from '../order/index.js';
import {
  pageAddress,
  whyOutOfReach,
  witnessWords,
  type EnvironmentName,
  type PageLoad,
  type Reach,
  type ReachAlgebra,
} from '../reach/index.js';
import { checklist, recipeOf, type ChecklistItem, type Recipe, type RecipeBook } from '../recipes/index.js';
import { partKey, reachOf, snippetOfPart, type Snapshot, type SnapshotSnippet } from '../snapshot/index.js';
import type { FactsCache, Load, ReadCode } from '../facts/index.js';
import { ManagedItems, type AbsentPart, type FileBook, type SightingMatch } from '../survey/index.js';
import type { Subject } from './finding.js';
import { grouped } from './groups.js';
import type { KnownPolicies, KnownSighting, Knowledge } from './knowledge.js';
import type { PageCode, PageThing, PagesInReach } from './page-code.js';
import type { ReadPart } from './read-part.js';
import { readEdited } from './read-edited.js';
import { readSet, type ReadSet, type ReadSnippet } from './read-set.js';
import { SetOrder } from './set-order.js';
import { SiteContext } from './site-context.js';
import type { Way } from './way.js';

export type PageOutcome = OnPage & { readonly path: string };

/** A sighting that is what a part of ours installs. */
export interface HardCoded {
  readonly sighting: KnownSighting;
  readonly match: SightingMatch;
  readonly part: ReadPart;
}

/** Parts that a check may look at beside those that it tells of. */
export interface NearParts {
  /** In page order, also of snippets that are off. */
  readonly parts: readonly ReadPart[];
  /** Those of snippets that are on. */
  readonly running: readonly ReadPart[];
}

/**
 * A set made ready for the checks: code read, parts in page order, pages comparable. After an edit checks get what the
 * edit touches of it: `parts`, `running` and `snapshot` are then what to tell of, and `near` is what these hang
 * together with by the ties of the check. Of a whole set they are the same.
 */
export class CheckedSet implements NearParts {
  readonly snapshot: Snapshot;
  readonly parts: readonly ReadPart[];
  readonly running: readonly ReadPart[];
  readonly near: NearParts;
  /** The set that this is a view of; itself where it is no view. */
  readonly whole: CheckedSet;
  /** Milliseconds since 1970. */
  readonly now: number;
  readonly memory: FactsCache;
  readonly reaches: ReachAlgebra;
  readonly book: RecipeBook;
  readonly boxes: readonly Box[];
  readonly lineAddress: string | undefined;
  readonly absent: readonly AbsentPart[];
  readonly policies: readonly KnownPolicies[];
  /** Paths of the site's pages. */
  readonly paths: readonly string[];
  /** The site has more pages than those that are known. */
  readonly hasMorePages: boolean;
  readonly files: FileBook;
  /** What the pages have themselves. */
  readonly pageCode: PageCode;
  readonly #context: SiteContext;
  readonly #read: ReadSet;
  #order: SetOrder | undefined;
  #unread: readonly ReadPart[] | undefined;
  #hardCoded: readonly HardCoded[] | undefined;
  #installs: ReadonlyMap<string | undefined, readonly SnapshotSnippet[]> | undefined;

  /** @param view - what a view shows; the whole set when left out */
  private constructor(
    context: SiteContext,
    snapshot: Snapshot,
    read: ReadSet,
    view?: { readonly whole: CheckedSet; readonly near: NearParts },
  ) {
    this.snapshot = snapshot;
    this.parts = read.parts;
    this.running = read.running;
    const { known } = context;
    this.now = known.now;
    this.memory = known.memory;
    this.reaches = context.reaches;
    this.book = known.book;
    this.boxes = known.boxes;
    this.lineAddress = known.lineAddress;
    this.absent = known.absent;
    this.policies = known.policies;
    this.paths = known.paths;
    this.hasMorePages = known.hasMorePages;
    this.files = context.files;
    this.pageCode = context.pageCode;
    this.#context = context;
    this.#read = read;
    this.whole = view?.whole ?? this;
    this.near = view?.near ?? this;
  }

  static of(snapshot: Snapshot, knowledge: Knowledge = {}): CheckedSet {
    const context = new SiteContext(snapshot, knowledge);
    return new CheckedSet(context, snapshot, readSet(snapshot, context));
  }

  /**
   * The set after an edit, with what differs; undefined where that is too much, or where other things are known of the
   * site by now.
   */
  edited(
    snapshot: Snapshot,
    knowledge: Knowledge,
  ): { readonly set: CheckedSet; readonly changed: ReadonlySet<string> } | undefined {
    if (!this.#context.isStillSo(snapshot.site, knowledge)) return undefined;
    const edited = readEdited(this.#read, snapshot, this.#context);
    return edited && { set: new CheckedSet(this.#context, snapshot, edited.read), changed: edited.changed };
  }

  /** The same set with its order worked out. */
  inOrder(order: SetOrder): this {
    this.#order = order;
    return this;
  }

  /** Some of its snippets, by key. @param near - those that these hang together with; all when left out */
  only(keys: ReadonlySet<string>, near?: ReadonlySet<string>): CheckedSet {
    const known = [...keys].flatMap((key) => this.#read.snippets.get(key) ?? []);
    const snippets = known.map(({ own }) => own);
    const parts = inPageOrder(known);
    const running = parts.filter(({ isOn }) => isOn);
    const read = { line: snippets, snippets: this.#read.snippets, parts, running };
    const view = { whole: this, near: near ? this.#near(near) : this };
    return new CheckedSet(this.#context, { ...this.snapshot, snippets }, read, view);
  }

  #near(keys: ReadonlySet<string>): NearParts {
    const parts = inPageOrder([...keys].flatMap((key) => this.#read.snippets.get(key) ?? []));
    return { parts, running: parts.filter(({ isOn }) => isOn) };
  }

  /** What is near, as what an order is worked out from. */
  asNear(): OrderSet<ReadPart> {
    return {
      running: this.near.running,
      meeting: (a, b) => this.meeting(a, b),
      recipeNeeds: (part) => this.recipeNeeds(part),
      isRead: (load) => this.isRead(load),
    };
  }

  /** All snippets of the whole set by key, as they were read. */
  get snippets(): ReadonlyMap<string, ReadSnippet> {
    return this.#read.snippets;
  }

  /** What the site's own pages are made of, as far as they are known, of those that a part runs on. */
  skeletonsOf({ snippet }: ReadPart): readonly PageSkeleton[] {
    return this.#context.known.skeletons.filter(({ path }) =>
      this.reaches.holdsPage(snippet.pages, pageAddress(path)),
    );
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
    if (this.book.newest.length === 0) return undefined;
    const one = this.#read.snippets.get(key);
    if (!one) return undefined;
    one.recipe ??= {
      found: recipeOf(
        one.own,
        one.parts.map(({ facts }) => facts),
        this.book,
      ),
    };
    return one.recipe.found;
  }

  /** Keys of the snippets that must run before one, as its recipe says. */
  recipeNeeds({ snippet }: Pick<ReadPart, 'snippet'>): string[] {
    const after = this.recipeOf(snippet)?.after ?? [];
    return after.flatMap((recipe) => this.installs(recipe).map(({ key }) => key));
  }

  /** The snippets of the whole set that are installs of a recipe, in its order. */
  installs(recipe: string): readonly SnapshotSnippet[] {
    if (this.whole !== this) return this.whole.installs(recipe);
    this.#installs ??= grouped(this.snapshot.snippets, (snippet) => this.recipeOf(snippet)?.key);
    return this.#installs.get(recipe) ?? [];
  }

  /** What is to be done at providers for the snippets that are on, and what of it somebody has ticked. */
  get checklist(): ChecklistItem[] {
    const uses = grouped(this.snapshot.snippets, (snippet) =>
      snippet.state === 'on' ? this.recipeOf(snippet) : undefined,
    );
    return checklist(
      [...uses].flatMap(([recipe, snippets]) => (recipe ? [{ recipe, snippets }] : [])),
      this.#context.known.hosts,
      this.#context.known.ticks,
    );
  }

  /** Whether two snippets are installs of one recipe that may stand on a page only once. */
  isOfOneRecipe(a: SnapshotSnippet, b: SnapshotSnippet): boolean {
    const recipe = this.recipeOf(a);
    return recipe !== undefined && !recipe.repeatable && recipe === this.recipeOf(b);
  }

  /** Whether a host is the site's own; an address without one is. */
  isOwnHost(host: string | undefined): boolean {
    return host === undefined || this.#context.known.hosts.some((one) => one.host === host);
  }

  /** Whether the site answers in an environment, as far as its hosts are known. */
  hasHost(environment: EnvironmentName): boolean {
    return (
      this.#context.known.hosts.length === 0 ||
      this.#context.known.hosts.some((host) => host.environment === environment)
    );
  }

  /** The site's hosts in an environment that it does not have in the other as well. */
  hostsOf(environment: EnvironmentName): string[] {
    const others = new Set(
      this.#context.known.hosts.filter((one) => one.environment !== environment).map(({ host }) => host),
    );
    return this.#context.known.hosts.flatMap((one) =>
      one.environment === environment && !others.has(one.host) ? [one.host] : [],
    );
  }

  /** The ways in which what visitors get of a snippet comes to them. */
  waysOf(snippet: Pick<SnapshotSnippet, 'limits'>): readonly Way[] {
    return this.#context.waysOf(snippet);
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
    const heeded = new Set(this.#context.heeded.map(({ key }) => key));
    return this.pageCode.things.filter(({ sighting }) => heeded.has(sighting.key));
  }

  /** What stands in the site itself and is what a part installs, each with that part; also where its type lets nothing run. */
  get hardCoded(): readonly HardCoded[] {
    if (this.whole !== this) return this.whole.hardCoded;
    this.#hardCoded ??= this.#findHardCoded();
    return this.#hardCoded;
  }

  #findHardCoded(): HardCoded[] {
    const others = this.#context.heeded.filter(
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

  /** What needs what in the whole set, worked out when it is first asked for. */
  get order(): SetOrder {
    if (this.whole !== this) return this.whole.order;
    return (this.#order ??= new SetOrder(findDependencies<ReadPart>(this), this.parts));
  }

  /** Whether scripts run on a page of which nobody knows what they do: its own, or those that snippets load there. @param snippet - that surely runs there */
  holdsUnread({ group, page }: PagesInReach, snippet: SnapshotSnippet): boolean {
    if (this.whole !== this) return this.whole.holdsUnread({ group, page }, snippet);
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
    const parts = this.#read.snippets.get(snippetOfPart(key))?.parts ?? [];
    return parts.find((part) => part.key === key)?.code ?? '';
  }

  /** The code of a part as it is written, its fields not filled in; empty where there is none. */
  sourceOf(key: string): string {
    const own = this.#read.snippets.get(snippetOfPart(key))?.own;
    return own?.parts.find((_, index) => partKey(own.key, index) === key)?.code ?? '';
  }

  /** Where something that a finding is about stands in the page, among others. */
  positionOf({ snippet, part }: Subject): number {
    const parts = this.#read.snippets.get(snippet)?.parts ?? [];
    return (parts.find(({ key }) => key === part) ?? parts[0])?.position ?? -1;
  }

  /** Whether a snippet runs on a page of the live site, in some page load. @param page - a path */
  runsOn(snippet: SnapshotSnippet, page: string): boolean {
    return this.#context.runsOn(snippet, page);
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

function inPageOrder(snippets: readonly ReadSnippet[]): ReadPart[] {
  return snippets.flatMap(({ parts }) => parts).sort((a, b) => a.position - b.position);
}

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
