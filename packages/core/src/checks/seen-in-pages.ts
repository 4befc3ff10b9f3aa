import { FactsCache } from '../facts/index.js';
import type { PlannedPart } from '../plan/index.js';
import {
  absentParts,
  composePage,
  describeSighting,
  gatherSightings,
  readPage,
  type ComposedPages,
  type Composition,
  type Sighting,
} from '../survey/index.js';
import { isWithoutPolicies, pagePolicies } from '../policy/index.js';
import type { Knowledge, KnownPolicies } from './knowledge.js';

/** A page as it is given, in place of one that a survey asks for. */
export interface GivenPage {
  readonly path: string;
  readonly bytes: Uint8Array;
  /** By names in lower case. */
  readonly headers: Readonly<Record<string, string>>;
  /** Parts that were put into it. */
  readonly parts?: readonly PlannedPart[];
}

/**
 * What a survey would see in given pages, each of a make of its own.
 *
 * @param address - scheme, host and port of the site
 */
export function seenInPages(
  pages: readonly GivenPage[],
  address: string,
  memory = new FactsCache(),
): Pick<Knowledge, 'seen' | 'absent' | 'policies' | 'groups'> {
  const codes = new Map<string, Pick<Sighting, 'key' | 'kind' | 'code'> & { readonly firstPath: string }>();
  const partCodes = new Map<string, string>();
  const groups: ComposedPages[] = [];
  const declared: KnownPolicies[] = [];
  const compositions = new Map<number, Composition>();
  for (const { path, bytes, headers, parts = [] } of pages) {
    const source = { url: address + path, status: 200, bytes, headers };
    const reading = readPage(source, memory, parts);
    const { items, found, type } = reading;
    if (!isWithoutPolicies(reading)) declared.push({ ...pagePolicies(reading), address, paths: [path] });
    for (const { key, code } of parts) partCodes.set(key, code);
    for (const item of items) if (!codes.has(item.key)) codes.set(item.key, { ...item, firstPath: path });
    const id = groups.length;
    groups.push({ composition: id, section: path, type, pages: 1, examples: [path] });
    compositions.set(id, composePage(items, found));
  }
  const seen = gatherSightings(groups, compositions).map((one) => ({
    ...describeSighting(codes.get(one.key)!, memory),
    firstPath: codes.get(one.key)!.firstPath,
    seen: one,
  }));
  return {
    seen,
    groups,
    absent: absentParts(groups, compositions, (part) => partCodes.get(part)!),
    policies: declared,
  };
}
