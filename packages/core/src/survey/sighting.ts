import { domainOf, suggestNames, type FactsCache, type ShapeKind } from '../facts/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { CARRIER_PART } from './carriers.js';
import type { AttributedItem, ItemKind } from './types.js';

/** A value that names an account, and who keeps it. */
export interface SightedAccount {
  readonly value: string;
  readonly domain: string | undefined;
}

/** What was seen in a site's pages: one thing, on however many of them. */
export interface Sighting {
  /** See `PageItem`. */
  readonly key: string;
  readonly kind: ItemKind;
  /** As it stood in the first page where it was seen. */
  readonly code: string;
  readonly name: string;
  /** The provider's name as its domain says it; empty where it talks to nobody. */
  readonly provider: string;
  readonly shape: ShapeKind;
  readonly accounts: readonly SightedAccount[];
  /** Addresses of scripts, frames, images and styles that it loads, as far as they can be known. */
  readonly loads: readonly string[];
}

/** What a code that was seen is. */
export function describeSighting(
  {
    key,
    kind,
    code,
    asScript,
    part,
  }: Pick<Sighting, 'key' | 'kind' | 'code'> & Partial<Pick<AttributedItem, 'asScript' | 'part'>>,
  memory: FactsCache,
): Sighting {
  const { facts } = memory.read(asScript ?? code);
  const names = suggestNames(facts);
  const loads = [
    ...new Set(facts.loads.filter((load) => load.kind !== 'hint').map(({ address }) => address)),
  ];
  return {
    key,
    kind,
    code,
    name:
      part === CARRIER_PART
        ? SURVEY_TEXTS.carrierName
        : nameOf(loads[0], names.provider === '' ? undefined : names.name, facts.defines[0]?.name),
    provider: names.provider,
    shape: facts.shape.kind,
    accounts: facts.accounts
      .filter(({ confidence }) => confidence !== 'guess')
      .map(({ value, domain }) => ({ value, domain })),
    loads,
  };
}

/** By its provider where there is one, else by the file that it loads or the name that it defines. */
function nameOf(
  address: string | undefined,
  provided: string | undefined,
  defined: string | undefined,
): string {
  if (provided !== undefined && address !== undefined && domainOf(address) !== undefined) return provided;
  if (address !== undefined)
    return address.split(/[?#]/, 1)[0]!.split('/').slice(-2).join('/').replace(/^\//, '');
  return defined ?? '';
}
