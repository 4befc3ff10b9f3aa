import equal from 'fast-deep-equal';
import type { PageSkeleton } from '../contain/index.js';
import { DELIVERIES, type Box } from '../deliver/index.js';
import { FactsCache } from '../facts/index.js';
import { memoizeByObject } from '../memoize/by-object.js';
import { ReachAlgebra, pageMatcher, withoutGroups, type EnvironmentName } from '../reach/index.js';
import { RecipeBook, type StepTick } from '../recipes/index.js';
import type { Snapshot, SnapshotSnippet } from '../snapshot/index.js';
import { FileBook, type AbsentPart } from '../survey/index.js';
import type { KnownFiles, KnownHost, KnownPolicies, KnownSighting, Knowledge } from './knowledge.js';
import { PageCode } from './page-code.js';
import type { Way } from './way.js';

const NO_RECIPES = new RecipeBook();
const NO_FILES: KnownFiles = { base: 'http://localhost', files: [] };

const fileBook = memoizeByObject(({ base, files }: KnownFiles) => new FileBook(base, files));

/** What is known beside the snippets of a set: of its site, and of the moment. It stays while snippets are edited. */
export class SiteContext {
  readonly site: Snapshot['site'];
  readonly knowledge: Knowledge;
  /** Milliseconds since 1970. */
  readonly now: number;
  readonly memory: FactsCache;
  readonly reaches: ReachAlgebra;
  readonly book: RecipeBook;
  readonly skeletons: readonly PageSkeleton[];
  readonly hosts: readonly KnownHost[];
  readonly boxes: readonly Box[];
  readonly lineAddress: string | undefined;
  readonly ticks: readonly StepTick[];
  /** What a survey saw and nobody ignores. */
  readonly heeded: readonly KnownSighting[];
  readonly absent: readonly AbsentPart[];
  readonly policies: readonly KnownPolicies[];
  /** Paths of the site's pages. */
  readonly paths: readonly string[];
  /** The site has more pages than those that are known. */
  readonly hasMorePages: boolean;
  readonly files: FileBook;
  /** What the pages have themselves. */
  readonly pageCode: PageCode;
  #ways: ReadonlyMap<EnvironmentName, readonly Way[]> | undefined;

  constructor({ site, snippets }: Snapshot, knowledge: Knowledge) {
    const { memory = new FactsCache(), paths = [], skeletons = [], hosts = [], now = 0 } = knowledge;
    const { seen = [], ignored = [], groups = [] } = knowledge;
    this.site = site;
    this.knowledge = knowledge;
    this.now = now;
    this.memory = memory;
    this.paths = paths;
    this.skeletons = skeletons;
    this.hosts = hosts;
    this.book = knowledge.book ?? NO_RECIPES;
    this.boxes = knowledge.boxes ?? [];
    this.lineAddress = knowledge.lineAddress;
    this.ticks = knowledge.ticks ?? [];
    const isIgnored = new Set(ignored);
    this.heeded = seen.filter(({ key }) => !isIgnored.has(key));
    this.absent = knowledge.absent ?? [];
    this.policies = knowledge.policies ?? [];
    this.hasMorePages = knowledge.hasMorePages ?? false;
    this.files = fileBook(knowledge.files ?? NO_FILES);
    this.pageCode = new PageCode(seen, groups, this.files, memory, (snippet, page) =>
      this.runsOn(snippet, page),
    );
    const rules = snippets.map(({ pages }) => pages);
    this.reaches = new ReachAlgebra({ site, paths, hosts, rules, from: now });
  }

  /** Whether a snippet runs on a page of the live site, in some page load. @param page - a path */
  runsOn({ pages, limits }: SnapshotSnippet, page: string): boolean {
    if (limits?.environment === 'staging') return false;
    const rules = withoutGroups(pages, this.site.pageGroups ?? []);
    return pageMatcher(rules).match(page).matches;
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
      const hosts = this.hosts.filter(
        (one) => one.environment === environment && (one.delivery ?? 'gateway') === delivery.key,
      );
      return hosts.length === 0 ? [] : [{ delivery, hosts: hosts.map(({ host }) => host) }];
    });
  }

  /** Whether all that is known is what it was, the moment aside. */
  isStillSo(site: Snapshot['site'], knowledge: Knowledge): boolean {
    return (
      equal(this.site, site) &&
      KNOWN.every((key) => this.knowledge[key] === knowledge[key] || isEqual(key, this.knowledge, knowledge))
    );
  }
}

/** All that may be known, the memory and the moment aside. */
const KNOWN = [
  'paths',
  'hosts',
  'boxes',
  'lineAddress',
  'skeletons',
  'book',
  'ticks',
  'seen',
  'ignored',
  'absent',
  'policies',
  'groups',
  'hasMorePages',
  'files',
] as const satisfies readonly (keyof Knowledge)[];

/** What is plain data is compared by what it says; a book of recipes is the same or another. */
function isEqual(key: (typeof KNOWN)[number], a: Knowledge, b: Knowledge): boolean {
  return key !== 'book' && equal(a[key] ?? [], b[key] ?? []);
}
