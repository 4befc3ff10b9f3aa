import type { FactsCache, Knowledge, ReadingWatch, Recipe, RecipeBook } from '@pragmatica/core';

/** What is known of a site, as plain data, so that it can be handed to a thread. */
export interface PlainKnowledge extends Omit<Knowledge, 'book' | 'memory'> {
  /** Another one for every moment at which the site was asked for its pages. */
  readonly id: number;
  readonly recipes: readonly Recipe[];
  /** Another one whenever there are more recipes. */
  readonly edition: string;
}

/** What was handed out lately is not handed out again. */
export interface HandedOut {
  /** @returns whether it is for the first time */
  add(key: string): boolean;
}

/** What a thread keeps from task to task. */
export interface Bench {
  readonly memory: FactsCache;
  /** The same for codes that hardly come again; it forgets soon. */
  readonly passing: FactsCache;
  /** Forms of code that were handed out before. */
  readonly handedOut: HandedOut;
  readonly watch: ReadingWatch;
  /** The same object for the same moment: what was worked out is kept by it. */
  known(knowledge: PlainKnowledge): Knowledge;
  book(edition: string, recipes: readonly Recipe[]): RecipeBook;
}
