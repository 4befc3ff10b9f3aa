import { onPage, type OnPage, type PageSkeleton } from '../contain/index.js';
import { readCode, type Facts, type Range } from '../facts/index.js';
import { lineAndColumn } from '../facts/index.js';
import { byObject } from '../by-object.js';
import { placementKey, type Placement } from '../insert/index.js';
import type { OrderPart } from '../order/index.js';
import { orderedParts, type Snapshot } from '../release/index.js';
import { Pages } from './pages.js';
import { SetOrder } from './set-order.js';
import type { Evidence, Subject } from './types.js';

/** A part of a set with what was read out of its code. */
export interface ReadPart extends OrderPart {
  readonly code: string;
  /** What checks work out of the code once, they keep by this object. */
  readonly read: ReadCode;
  /** Its snippet is switched on. */
  readonly isOn: boolean;
  readonly isInHead: boolean;
}

/** A code and what was read out of it: one object for as long as it is remembered. */
export interface ReadCode {
  readonly code: string;
  readonly facts: Facts;
}

/** Codes that were read: reading is most of the work, and most code stays the same from edit to edit. */
export class FactsMemory {
  readonly #kept = new Map<string, ReadCode>();
  readonly #most: number;

  constructor(most = 20_000) {
    this.#most = most;
  }

  read(code: string): ReadCode {
    let read = this.#kept.get(code);
    if (!read) {
      if (this.#kept.size >= this.#most) this.#kept.clear();
      this.#kept.set(code, (read = { code, facts: readCode(code) }));
    }
    return read;
  }
}

/** What is known of the site beside its set. */
export interface Knowledge {
  /** Paths of the site's pages. */
  readonly paths?: readonly string[];
  /** What the site's own pages are made of, each kind once. */
  readonly skeletons?: readonly PageSkeleton[];
  /** Facts that were read before; kept from run to run, only new code is read. */
  readonly memory?: FactsMemory;
}

export type PageOutcome = OnPage & { readonly path: string };

/** A set made ready for the checks: code read, parts in page order, pages comparable. */
export class CheckedSet {
  readonly snapshot: Snapshot;
  /** All parts in page order, also of snippets that are off. */
  readonly parts: readonly ReadPart[];
  /** Those of snippets that are on. */
  readonly running: readonly ReadPart[];
  readonly pages: Pages;
  #byKey: ReadonlyMap<string, ReadPart> | undefined;
  #order: SetOrder | undefined;
  readonly #skeletons: readonly PageSkeleton[];

  constructor(
    snapshot: Snapshot,
    { memory = new FactsMemory(), paths = [], skeletons = [] }: Knowledge = {},
  ) {
    this.snapshot = snapshot;
    this.#skeletons = skeletons;
    this.parts = orderedParts(snapshot).map((placed, position) => ({
      ...placed,
      ...readOf(memory.read(placed.part.code)),
      position,
      isOn: placed.snippet.state === 'on',
      isInHead: placementKey(placed.part.placement).startsWith('head'),
    }));
    this.running = this.parts.filter(({ isOn }) => isOn);
    this.pages = new Pages(paths);
  }

  /** What becomes of a part on the site's own pages, as far as they are known, of those that it runs on. */
  onPages(part: ReadPart): readonly PageOutcome[] {
    const { placement } = part.part;
    return this.#skeletons
      .filter(({ path }) => this.pages.holds(part.snippet.pages, path))
      .map((skeleton) => ({
        path: skeleton.path,
        ...outcomeOn(skeleton, part.read, placement),
      }));
  }

  /** What needs what, worked out when it is first asked for. */
  get order(): SetOrder {
    return (this.#order ??= new SetOrder(this));
  }

  /** The code of a part by its key; empty where there is none. */
  codeOf(key: string): string {
    this.#byKey ??= new Map(this.parts.map((part) => [part.key, part]));
    return this.#byKey.get(key)?.code ?? '';
  }

  /** A page on which both run; undefined where none is known. */
  meeting(a: ReadPart, b: ReadPart): string | undefined {
    return a.snippet === b.snippet ? '/' : this.pages.meeting(a.snippet.pages, b.snippet.pages);
  }
}

function readOf(read: ReadCode): { read: ReadCode; code: string; facts: Facts } {
  return { read, code: read.code, facts: read.facts };
}

/** By skeleton, code and placement: sites whose pages are made alike share nothing but time. */
const outcomes = byObject<PageSkeleton, (read: ReadCode) => Map<string, OnPage>>(() =>
  byObject(() => new Map()),
);

function outcomeOn(skeleton: PageSkeleton, read: ReadCode, placement: Placement): OnPage {
  const kept = outcomes(skeleton)(read);
  const key = placementKey(placement);
  let outcome = kept.get(key);
  if (!outcome) kept.set(key, (outcome = onPage(skeleton, read.code, placement)));
  return outcome;
}

const SHOWN = 120;
/** So much of the line before the place is shown where the line is too long. */
const LEAD = 30;

/** Evidence at a range of a part's code. */
export function evidence(part: ReadPart, range: Range, note: string): Evidence {
  return {
    part: part.key,
    range,
    text: lineAround(part.code, range),
    ...lineAndColumn(part.code, range.start),
    note,
  };
}

/** The line in which a range begins, up to the range's end where that is further on. */
function lineAround(code: string, { start, end }: Range): string {
  const lineStart = code.lastIndexOf('\n', start - 1) + 1;
  const lineEnd = code.indexOf('\n', Math.max(start, end - 1));
  const line = code.slice(lineStart, lineEnd < 0 ? code.length : lineEnd).trimEnd();
  const from = line.length <= SHOWN ? 0 : Math.max(0, start - lineStart - LEAD);
  const shown = line.slice(from, from + SHOWN).trim();
  return `${from > 0 ? '…' : ''}${shown}${from + SHOWN < line.length ? '…' : ''}`;
}

export function subject(part: ReadPart): Subject {
  return { snippet: part.snippet.key, name: part.snippet.name, part: part.key };
}

/** Parts grouped by something they share, in page order; groups of one are left out. */
export function groups<T>(items: readonly T[], keyOf: (item: T) => string | undefined): T[][] {
  const found = new Map<string, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    if (key === undefined) continue;
    const group = found.get(key);
    if (group) group.push(item);
    else found.set(key, [item]);
  }
  return [...found.values()].filter((group) => group.length > 1);
}
