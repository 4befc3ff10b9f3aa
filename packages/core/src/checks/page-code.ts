import { happensBefore, type Precedence } from '../order/index.js';
import { isAnchor, type NamedPlacement } from '../insert/index.js';
import {
  broughtNames,
  plainName,
  whenFileRuns,
  type ExecutionPhase,
  type Facts,
  type FactsCache,
  type Load,
} from '../facts/index.js';
import type { SnapshotSnippet } from '../snapshot/index.js';
import { filesLoadedBy, type ComposedPages, type FileBook, type ItemPlace } from '../survey/index.js';
import type { KnownSighting } from './knowledge.js';
import type { ReadPart } from './read-part.js';

/** Something that stands in the pages themselves, with what it does. */
export interface PageThing {
  readonly sighting: KnownSighting;
  readonly facts: Facts;
  readonly place: ItemPlace;
  /** Ids of the compositions on which it stands as the page's own. */
  readonly compositions: ReadonlySet<number>;
}

/** That a page makes a name itself. */
export interface PageDefiner {
  readonly thing: PageThing;
  readonly when: ExecutionPhase;
  readonly isStub: boolean;
  /** The file that makes it, where it is not the page's own text. */
  readonly file: string | undefined;
  /** Only what the file is called tells so. */
  readonly isGuess: boolean;
}

/** The file that makes it, or the name of what does. */
export function makerName({ file, thing }: PageDefiner): string {
  return file ?? thing.sighting.name;
}

/** Pages of one make on which a snippet runs. */
export interface PagesInReach {
  readonly group: ComposedPages;
  /** One of them. */
  readonly page: string;
}

/** Where parts and the page's own things stand, from the top: of ours at ends the page's own comes first. */
const SLOTS: Readonly<Record<NamedPlacement, number>> = {
  'head-start': 0,
  'head-end': 2,
  'body-start': 3,
  'body-end': 5,
};
const OWN_SLOTS: Readonly<Record<ItemPlace, number>> = {
  head: 1,
  'body-start': 4,
  body: 4,
  'body-end': 4,
};

/** What the pages have themselves, for all that a set needs of them. What runs on no page is not looked at. */
export class PageCode {
  readonly things: readonly PageThing[];
  /** Pages by make, with the first of each. */
  readonly groups: readonly ComposedPages[];
  readonly #files: FileBook;
  readonly #runsOn: (snippet: SnapshotSnippet, page: string) => boolean;
  readonly #reach = new WeakMap<SnapshotSnippet, readonly PagesInReach[]>();
  #definers: ReadonlyMap<string, readonly PageDefiner[]> | undefined;
  #called: ReadonlyMap<string, readonly PageDefiner[]> | undefined;
  #opaque: ReadonlySet<number> | undefined;

  /** @param runsOn - whether a snippet runs on a page, by its path */
  constructor(
    seen: readonly KnownSighting[],
    groups: readonly ComposedPages[],
    files: FileBook,
    memory: FactsCache,
    runsOn: (snippet: SnapshotSnippet, page: string) => boolean,
  ) {
    this.groups = groups;
    this.#files = files;
    this.#runsOn = runsOn;
    this.things = seen.flatMap((sighting) => {
      const { others, states, places } = sighting.seen;
      if (others.pages === 0 || !states.includes('active')) return [];
      const { facts } = memory.read(sighting.code);
      const compositions = new Set(others.compositions);
      return [{ sighting, facts, place: places[0] ?? 'body', compositions }];
    });
  }

  /** Whether anything is known of the pages. */
  get isKnown(): boolean {
    return this.groups.length > 0;
  }

  /** The makes of pages on which a snippet runs, as far as their first pages tell. */
  pagesOf(snippet: SnapshotSnippet): readonly PagesInReach[] {
    let found = this.#reach.get(snippet);
    if (!found) {
      found = this.groups.flatMap((group) => {
        // What is shown in place of a page that is not there needs nothing of what pages need.
        if (group.type === 'error') return [];
        const page = group.examples.find((path) => this.#runsOn(snippet, path));
        return page === undefined ? [] : [{ group, page }];
      });
      this.#reach.set(snippet, found);
    }
    return found;
  }

  /** A page on which a snippet runs and something stands; undefined where there is none. */
  pageWith({ compositions }: PageThing, snippet: SnapshotSnippet): string | undefined {
    return this.pagesOf(snippet).find(({ group }) => compositions.has(group.composition))?.page;
  }

  /** What in the pages makes a name; where nothing is known to, files that are called so. */
  definersOf(name: string): readonly PageDefiner[] {
    this.#definers ??= this.#findDefiners();
    return this.#definers.get(name) ?? this.#guessedDefiners(name);
  }

  #guessedDefiners(name: string): readonly PageDefiner[] {
    this.#called ??= this.#findCalled();
    return this.#called.get(plainName(name)) ?? [];
  }

  #findCalled(): Map<string, PageDefiner[]> {
    const found = new Map<string, PageDefiner[]>();
    for (const thing of this.things)
      for (const load of thing.facts.loads) {
        if (!this.#files.isUnread(load, thing.sighting.firstPath)) continue;
        for (const name of broughtNames(load))
          add(found, name, {
            thing,
            when: whenFileRuns(load),
            isStub: false,
            file: load.address,
            isGuess: true,
          });
      }
    return found;
  }

  #findDefiners(): Map<string, PageDefiner[]> {
    const found = new Map<string, PageDefiner[]>();
    for (const thing of this.things) {
      for (const { name, when, isStub } of thing.facts.defines)
        add(found, name, { thing, when, isStub, file: undefined, isGuess: false });
      for (const load of filesLoadedBy(thing.facts))
        for (const name of this.#fileOf(thing, load)?.defines ?? [])
          add(found, name, {
            thing,
            when: whenFileRuns(load),
            isStub: false,
            file: load.address,
            isGuess: false,
          });
    }
    return found;
  }

  #fileOf({ sighting }: PageThing, { address }: Load) {
    return this.#files.find(address, sighting.firstPath);
  }

  /** Whether all the pages on which a snippet runs make a name themselves. */
  isBrought(name: string, snippet: SnapshotSnippet): boolean {
    const definers = this.definersOf(name);
    const pages = definers.length === 0 ? [] : this.pagesOf(snippet);
    return (
      pages.length > 0 &&
      pages.every(({ group }) => definers.some(({ thing }) => thing.compositions.has(group.composition)))
    );
  }

  /** Whether a page loads files of which nobody knows what they do; any of them may make any name. */
  isOpaque(composition: number): boolean {
    this.#opaque ??= new Set(
      this.things
        .filter(({ facts, sighting }) =>
          facts.loads.some((load) => this.#files.isUnread(load, sighting.firstPath)),
        )
        .flatMap(({ compositions }) => [...compositions]),
    );
    return this.#opaque.has(composition);
  }

  /** Whether what a page does itself comes before what a part does; at anchors that is the page's own affair. */
  comesBefore({ thing, when }: PageDefiner, part: ReadPart, partWhen: ExecutionPhase): Precedence {
    const { placement } = part.part;
    if (isAnchor(placement)) return 'maybe';
    return happensBefore(
      { when, position: OWN_SLOTS[thing.place], placement: 'head-end' },
      { when: partWhen, position: SLOTS[placement], placement },
    );
  }
}

function add(found: Map<string, PageDefiner[]>, name: string, definer: PageDefiner): void {
  const list = found.get(name);
  if (list) list.push(definer);
  else found.set(name, [definer]);
}
