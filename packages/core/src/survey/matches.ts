import { parseFragment } from 'parse5';
import { normalAddress, normalForm, type FactsCache } from '../facts/index.js';
import type { EnvironmentName } from '../reach/index.js';
import { filledSnapshot, partKey, type Snapshot } from '../snapshot/index.js';
import { readItems } from './page-items.js';
import { describeSighting, type SightedAccount, type Sighting } from './sighting.js';

/** How a thing in a page is known to be what a snippet installs, the surest first. */
export const MATCH_KINDS = [
  /** the same code */
  'same',
  /** the same code, written in another way */
  'reformatted',
  /** the same account at the same provider, by other code */
  'same-account',
  /** the same code or loader for another account */
  'other-account',
  /** the same file is loaded, in another way */
  'same-loader',
] as const;
export type MatchKind = (typeof MATCH_KINDS)[number];

/** That a sighting is what a part of a snippet installs. */
export interface SightingMatch {
  readonly snippet: string;
  readonly part: string;
  readonly kind: MatchKind;
  /** For another account: the account of the snippet. */
  readonly account?: string;
  /** What the part holds of it, where that is not the same. */
  readonly code?: string;
}

interface ManagedItem extends Sighting {
  readonly snippet: string;
  readonly part: string;
  readonly form: string;
}

/** What the snippets of a set put into pages, ready to be compared with what is seen there. */
export class ManagedItems {
  readonly #byForm: ReadonlyMap<string, ManagedItem>;
  readonly #byKey: ReadonlyMap<string, ManagedItem>;
  readonly #byAccount: ReadonlyMap<string, ManagedItem>;
  readonly #byOutline: ReadonlyMap<string, ManagedItem>;
  readonly #byLoader: ReadonlyMap<string, ManagedItem>;

  /** @param snapshot - snippets that are on come before others: of two alike the first is taken */
  constructor(snapshot: Snapshot, environment: EnvironmentName, memory: FactsCache) {
    const items = managedItems(snapshot, environment, memory);
    this.#byForm = firstBy(items, ({ form }) => [form]);
    this.#byKey = firstBy(items, ({ key }) => [key]);
    this.#byAccount = firstBy(items, ({ accounts }) => accountKeys(accounts));
    this.#byOutline = firstBy(items, (item) => [outlineOf(item)]);
    this.#byLoader = firstBy(items, ({ loads }) => loads.map(loaderKey));
  }

  /** @param forms - of the sighting, as it is written on its pages */
  match(sighting: Sighting, forms: readonly string[]): SightingMatch | undefined {
    const same = first(forms, this.#byForm);
    if (same) return toMatch(same, 'same');
    const reformatted = this.#byKey.get(sighting.key);
    if (reformatted) return toMatch(reformatted, 'reformatted');
    const sameAccount = first(accountKeys(sighting.accounts), this.#byAccount);
    if (sameAccount) return toMatch(sameAccount, 'same-account');
    const outline = this.#byOutline.get(outlineOf(sighting));
    if (outline && isOtherAccount(outline, sighting))
      return { ...toMatch(outline, 'other-account'), account: outline.accounts[0]!.value };
    const loader = first(sighting.loads.map(loaderKey), this.#byLoader);
    if (!loader) return undefined;
    return isOtherAccount(loader, sighting)
      ? { ...toMatch(loader, 'other-account'), account: loader.accounts[0]!.value }
      : toMatch(loader, 'same-loader');
  }
}

function managedItems(snapshot: Snapshot, environment: EnvironmentName, memory: FactsCache): ManagedItem[] {
  const { snippets } = filledSnapshot(snapshot, environment);
  const inOrder = [...snippets].sort((a, b) => Number(b.state === 'on') - Number(a.state === 'on'));
  return inOrder.flatMap((snippet) =>
    snippet.parts.flatMap(({ code }, index) =>
      codeItems(code, memory).map((item): ManagedItem => ({
        ...describeSighting(item, memory),
        form: item.form,
        snippet: snippet.key,
        part: partKey(snippet.key, index),
      })),
    ),
  );
}

/** What stands in a code by itself, as in a page. */
function codeItems(code: string, memory: FactsCache) {
  const { childNodes } = parseFragment(code, { sourceCodeLocationInfo: true });
  return readItems(childNodes, { text: code, memory, own: new Set(), placeOf: () => 'body' }).filter(
    ({ state }) => state === 'active' || state === 'noscript',
  );
}

function firstBy(
  items: readonly ManagedItem[],
  keysOf: (item: ManagedItem) => readonly string[],
): Map<string, ManagedItem> {
  const map = new Map<string, ManagedItem>();
  for (const item of items) for (const key of keysOf(item)) if (!map.has(key)) map.set(key, item);
  return map;
}

function first(keys: readonly string[], map: ReadonlyMap<string, ManagedItem>): ManagedItem | undefined {
  for (const key of keys) {
    const found = map.get(key);
    if (found) return found;
  }
  return undefined;
}

function toMatch({ snippet, part, code }: ManagedItem, kind: MatchKind): SightingMatch {
  return { snippet, part, kind, ...(kind === 'same' ? {} : { code }) };
}

function accountKeys(accounts: readonly SightedAccount[]): string[] {
  return accounts.flatMap(({ value, domain }) => (domain === undefined ? [] : [`${domain} ${value}`]));
}

/** Host and path of a file that is loaded; of the page's own files none, as these are no provider's. */
function loaderKey(address: string): string {
  const plain = normalAddress(address).split('?', 1)[0]!;
  return plain.startsWith('//') ? plain : `own ${plain}`;
}

/** The code without its accounts: equal for two installs of one thing with an account each. */
function outlineOf({ kind, code, accounts }: Sighting): string {
  let text = code;
  for (const { value } of accounts) text = text.replaceAll(value, '…');
  return `${kind} ${normalForm(text)}`;
}

function isOtherAccount(ours: Sighting, theirs: Sighting): boolean {
  if (ours.accounts.length === 0 || theirs.accounts.length === 0) return false;
  const values = new Set(ours.accounts.map(({ value }) => value));
  return !theirs.accounts.some(({ value }) => values.has(value));
}
