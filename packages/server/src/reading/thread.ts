import '../speak-first.js';
import {
  FactsCache,
  RecipeBook,
  standingLanguage,
  type GivenUp,
  type Knowledge,
  type ReadingWatch,
  type Recipe,
} from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import { languageByTag } from '../language/languages.js';
import { speakIn } from '../language/speech.js';
import { Beat, codeDigest } from './beat.js';
import type { Bench, PlainKnowledge } from './bench.js';
import { tasks, type TaskName } from './tasks.js';
import { ownThread } from './thread-time.js';

/** What a thread is handed. */
export interface Order {
  readonly name: TaskName;
  readonly input: unknown;
  readonly beat: SharedArrayBuffer;
  /** Codes that took too long before, and why, by digest. */
  readonly givenUp: ReadonlyMap<string, GivenUp>;
  /** The tag of the language that it speaks meanwhile, or `deferred`. */
  readonly speech: string;
}

const CODES_KEPT = 20_000;
const PASSING_KEPT = 500;
const SITES_KEPT = 200;

const thread = ownThread();
let beat = new Beat();
let givenUp: ReadonlyMap<string, GivenUp> = new Map();

const watch: ReadingWatch = {
  begin: (code) => beat.begin(codeDigest(code)),
  end: () => beat.end(),
  givenUp: (code) => (givenUp.size === 0 ? undefined : givenUp.get(codeDigest(code))),
};
const memory = new FactsCache(CODES_KEPT, watch);
const books = new LRUCache<string, RecipeBook>({ max: 4 });
const sites = new LRUCache<number, Pick<Knowledge, 'paths' | 'skeletons' | 'files'>>({ max: SITES_KEPT });

function book(edition: string, recipes: readonly Recipe[]): RecipeBook {
  let found = books.get(edition);
  if (!found) books.set(edition, (found = new RecipeBook(recipes)));
  return found;
}

const handedOut = new LRUCache<string, true>({ max: CODES_KEPT });

/** Codes of surveyed pages: many differ from page to page and never come again. */
const passing = new FactsCache(PASSING_KEPT, watch);

const bench: Bench = {
  memory,
  passing,
  handedOut: {
    add(key) {
      const isNew = !handedOut.has(key);
      handedOut.set(key, true);
      return isNew;
    },
  },
  watch,
  book,
  known({ id, recipes, edition, paths = [], skeletons = [], files, ...rest }: PlainKnowledge): Knowledge {
    let pages = sites.get(id);
    if (!pages) sites.set(id, (pages = { paths, skeletons, ...(files ? { files } : {}) }));
    return { ...rest, ...pages, memory, book: book(edition, recipes) };
  },
};

/** One task at a time; what the pool calls. */
export function run(order: Order): unknown {
  beat = new Beat(order.beat);
  beat.take(thread);
  givenUp = order.givenUp;
  const task = tasks[order.name] as (input: unknown, bench: Bench) => unknown;
  const { speech } = order;
  const said = speech === 'deferred' ? speech : (languageByTag(speech) ?? standingLanguage());
  return speakIn(said, () => task(order.input, bench));
}
