import type { ExampleSnippet, KnownFile, KnownHost, Placement, Recipe } from '@pragmatica/core';

/** A site with one thing wrong, as it goes wrong in practice. */
export interface Cause {
  readonly name: string;
  readonly snippets: readonly ExampleSnippet[];
  /** The check that names it. */
  readonly check: string;
  /** Names of the snippets that the finding is about. */
  readonly about: readonly string[];
  /** What its title or advice must say. */
  readonly says?: RegExp;
  /** Checks that may speak besides, of something that is wrong in itself. */
  readonly also?: readonly string[];
  readonly site?: CauseSite;
}

/** A site in which nothing is wrong, near to one in which something is. */
export type CleanSite = Pick<Cause, 'name' | 'snippets' | 'site'>;

/** What is known of the site, where that matters. */
export interface CauseSite {
  /** Its surveyed pages by path. */
  readonly pages?: Readonly<Record<string, string>>;
  readonly hosts?: readonly KnownHost[];
  readonly recipes?: readonly Recipe[];
  /** Headers that these pages come with, by names in lower case. */
  readonly headers?: Readonly<Record<string, string>>;
  /** Files that were read. */
  readonly files?: readonly KnownFile[];
  readonly timeZone?: string;
  /** Milliseconds since 1970. */
  readonly now?: number;
}

export interface CauseKind {
  readonly kind: string;
  readonly wrong: readonly Cause[];
  readonly clean: readonly CleanSite[];
}

type More = Partial<Omit<ExampleSnippet, 'name' | 'parts'>> & { readonly statement?: string };

/** A snippet of one part. */
export function at(placement: Placement, name: string, code: string, more: More = {}): ExampleSnippet {
  const { statement, ...rest } = more;
  return { name, parts: [{ placement, code, ...(statement === undefined ? {} : { statement }) }], ...rest };
}

export const inHead = (name: string, code: string, more?: More): ExampleSnippet =>
  at('head-end', name, code, more);

export const atFoot = (name: string, code: string, more?: More): ExampleSnippet =>
  at('body-end', name, code, more);

/** A page with something in its head and its body. */
export const page = (body: string, head = ''): string =>
  `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>Page</title>${head}</head><body>${body}</body></html>`;
