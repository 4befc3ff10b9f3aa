import equal from 'fast-deep-equal';
import { DELIVERIES } from '../deliver/index.js';
import { FactsCache } from '../facts/index.js';
import { memoizeByObject } from '../memoize/by-object.js';
import { ReachAlgebra, pageMatcher, withoutGroups, type EnvironmentName } from '../reach/index.js';
import { RecipeBook } from '../recipes/index.js';
import type { Snapshot, SnapshotSnippet } from '../snapshot/index.js';
import { FileBook } from '../survey/index.js';
import type { KnownFiles, KnownSighting, Knowledge } from './knowledge.js';
import { PageCode } from './page-code.js';
import type { Way } from './way.js';

/** What is known where nothing is said. */
const NOTHING_KNOWN = {
  paths: [],
  hosts: [],
  boxes: [],
  lineAddress: undefined,
  skeletons: [],
  book: new RecipeBook(),
  ticks: [],
  seen: [],
  ignored: [],
  absent: [],
  policies: [],
  groups: [],
  hasMorePages: false,
  files: { base: 'http://localhost', files: [] },
} as const satisfies {
  readonly [Key in Exclude<keyof Knowledge, 'memory' | 'now'>]-?: Knowledge[Key] | undefined;
};

/** All that may be known, the memory and the moment aside. */
const KNOWN = Object.keys(NOTHING_KNOWN) as readonly (keyof typeof NOTHING_KNOWN)[];

const fileBook = memoizeByObject(({ base, files }: KnownFiles) => new FileBook(base, files));

/** What is known, with what nothing is said of. */
type Known = Required<Omit<Knowledge, 'lineAddress'>> & { readonly lineAddress: string | undefined };

/** What is known beside the snippets of a set: of its site, and of the moment. It stays while snippets are edited. */
export class SiteContext {
  readonly site: Snapshot['site'];
  readonly known: Known;
  readonly reaches: ReachAlgebra;
  /** What a survey saw and nobody ignores. */
  readonly heeded: readonly KnownSighting[];
  readonly files: FileBook;
  /** What the pages have themselves. */
  readonly pageCode: PageCode;
  #ways: ReadonlyMap<EnvironmentName, readonly Way[]> | undefined;

  constructor({ site, snippets }: Snapshot, knowledge: Knowledge) {
    const known = { ...NOTHING_KNOWN, memory: new FactsCache(), now: 0, ...knowledge };
    const { paths, hosts, seen, groups, memory, now } = known;
    this.site = site;
    this.known = known;
    const isIgnored = new Set<string>(known.ignored);
    this.heeded = seen.filter(({ key }) => !isIgnored.has(key));
    this.files = fileBook(known.files);
    this.pageCode = new PageCode(seen, groups, this.files, memory, (snippet, page) =>
      this.runsOn(snippet, page),
    );
    const rules = snippets.map(({ pages }) => pages);
    this.reaches = new ReachAlgebra({ site, paths, hosts, rules, from: now });
  }

  get memory(): FactsCache {
    return this.known.memory;
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
      const hosts = this.known.hosts.filter(
        (one) => one.environment === environment && (one.delivery ?? 'gateway') === delivery.key,
      );
      return hosts.length === 0 ? [] : [{ delivery, hosts: hosts.map(({ host }) => host) }];
    });
  }

  /** Whether all that is known is what it was, the moment aside. */
  isStillSo(site: Snapshot['site'], knowledge: Knowledge): boolean {
    const now = { ...NOTHING_KNOWN, ...knowledge };
    return (
      equal(this.site, site) &&
      // What is plain data is compared by what it says; a book of recipes is the same or another.
      KNOWN.every(
        (key) => this.known[key] === now[key] || (key !== 'book' && equal(this.known[key], now[key])),
      )
    );
  }
}
