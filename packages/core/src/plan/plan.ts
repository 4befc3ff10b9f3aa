import { prepareParts, type Placement, type PreparedParts } from '../insert/index.js';
import { PageMatcher, listWords, toPathname, type PageMatch } from '../reach/index.js';
import { orderedParts, type PlacedPart, type Snapshot, type SnapshotSnippet } from '../release/index.js';

export interface PlannedPart {
  readonly key: string;
  readonly snippet: string;
  readonly name: string;
  readonly placement: Placement;
  readonly code: string;
}

export type SnippetLeftOutReason = 'off' | 'archived' | 'excluded' | 'not-included' | 'no-code';

export interface LeftOutSnippet {
  readonly snippet: string;
  readonly name: string;
  readonly reason: SnippetLeftOutReason;
  readonly message: string;
}

/** Exactly what one page load gets, in page order, and why each other snippet does not run there. */
export interface PagePlan {
  readonly path: string;
  readonly parts: readonly PlannedPart[];
  readonly leftOut: readonly LeftOutSnippet[];
}

/** Plans one page load. For many page loads of one release use `ReleasePlanner`. */
export function planPage(snapshot: Snapshot, path: string): PagePlan {
  return new ReleasePlanner(snapshot).plan(path);
}

/** Sets of snippets whose prepared parts are kept; a site has a handful, but its visitors choose the paths. */
const MAX_PREPARED = 1_000;

interface PlannedSnippet {
  readonly snippet: SnapshotSnippet;
  readonly matcher: PageMatcher;
}

/** A release made ready for many page loads: patterns compiled, parts ordered, their bytes prepared once per set. */
export class ReleasePlanner {
  readonly #snippets: readonly PlannedSnippet[];
  readonly #running: readonly PlannedSnippet[];
  readonly #parts: readonly PlacedPart[];
  /** Page loads with the same set of snippets share their prepared parts. */
  readonly #prepared = new Map<string, PreparedParts>();

  constructor(snapshot: Snapshot) {
    this.#snippets = snapshot.snippets.map((snippet) => ({
      snippet,
      matcher: new PageMatcher(snippet.pages),
    }));
    this.#running = this.#snippets.filter(
      ({ snippet }) => snippet.state === 'on' && snippet.parts.length > 0,
    );
    this.#parts = orderedParts(snapshot);
  }

  /** @param path - a URL path; a query is ignored */
  plan(path: string): PagePlan {
    const runs = new Set<string>();
    const leftOut: LeftOutSnippet[] = [];
    for (const { snippet, matcher } of this.#snippets) {
      const reason = whyLeftOut(snippet, matcher.match(path));
      if (reason) leftOut.push({ snippet: snippet.key, name: snippet.name, ...reason });
      else runs.add(snippet.key);
    }
    const parts = this.#parts.filter(({ snippet }) => runs.has(snippet.key)).map(toPlanned);
    return { path: toPathname(path), parts, leftOut };
  }

  /** The same parts as `plan`, ready for `PageInserter`, without the reasons. */
  prepare(path: string): PreparedParts {
    let id = '';
    const runs = new Set<string>();
    this.#running.forEach(({ snippet, matcher }, index) => {
      if (!matcher.match(path).matches) return;
      runs.add(snippet.key);
      id += `${index},`;
    });
    let prepared = this.#prepared.get(id);
    if (!prepared) {
      if (this.#prepared.size >= MAX_PREPARED) this.#prepared.clear();
      prepared = prepareParts(this.#parts.filter(({ snippet }) => runs.has(snippet.key)).map(toPlanned));
      this.#prepared.set(id, prepared);
    }
    return prepared;
  }
}

function toPlanned({ key, snippet, part }: PlacedPart): PlannedPart {
  return { key, snippet: snippet.key, name: snippet.name, placement: part.placement, code: part.code };
}

function whyLeftOut(
  snippet: SnapshotSnippet,
  match: PageMatch,
): { reason: SnippetLeftOutReason; message: string } | undefined {
  if (snippet.state === 'archived') return { reason: 'archived', message: 'It is archived.' };
  if (snippet.state === 'off') return { reason: 'off', message: 'It is switched off.' };
  if (snippet.parts.length === 0) return { reason: 'no-code', message: 'It has no code yet.' };
  if (match.matches) return undefined;
  if (match.because === 'excluded') {
    return { reason: 'excluded', message: `This page is left out by the rule “not on ${match.pattern!}”.` };
  }
  return { reason: 'not-included', message: `It runs only on ${listWords(snippet.pages.include)}.` };
}
