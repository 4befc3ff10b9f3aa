import { domainOf, isCacheBuster, queryOf } from './addresses.js';
import type { SeenCall } from './script/record.js';
import { HOLE, type Value } from './script/values.js';
import type { Account, Definition, Load, Range, Confidence } from './types.js';

/** Names under which accounts are kept, in the words of the trade. */
const LABEL =
  /(^|[-_.])(id|ids|account|acct|key|apikey|token|client|customer|site|siteid|property|container|publisher|pub|partner|app|appid|widget|form|calendar|channel|room|workspace|org|organi[sz]ation|tenant|tracker|tracking|pixel|tag|license|uid|pid|aid|cid|sid|tid|mid|advertiser|store|shop|project|user|code|page|bot|team|hub|zone|slot)(id|key|code|token|name)?$/i;
/** The first words of a call that says who is calling. */
const INTRODUCES =
  /^(init|initialize|initialise|config|configure|setup|set|setaccount|account|create|start|load|identify|boot|register|key|js|render|setsiteid|siteid|setid|id|use|connect|client)$/i;

/** Something written in markup that may name an account. */
export interface SeenAttribute {
  readonly tag: string;
  readonly name: string;
  readonly value: string;
  readonly range: Range;
  /** The address that the same tag loads. */
  readonly address: string | undefined;
}

interface Seen {
  readonly defines: readonly Definition[];
  readonly loads: readonly Load[];
  readonly calls: readonly SeenCall[];
  readonly attributes: readonly SeenAttribute[];
  readonly globals: ReadonlyMap<string, Value>;
}

/** Values that identify an account at a provider, told apart from versions, dates, hashes and cache-busters. */
export function accountsOf(seen: Seen, ranges: ReadonlyMap<string, Range>): Account[] {
  const domains = new Set(
    seen.loads.filter(({ kind }) => kind === 'script').map(({ address }) => domainOf(address)),
  );
  domains.delete(undefined);
  /** With one provider in the code, what is not an address belongs to it too. */
  const only = domains.size === 1 ? [...domains][0] : undefined;
  const accounts: Account[] = [];
  const known = new Map<string, { readonly starts: string[] }>();
  const add = (
    value: string,
    label: string,
    domain: string | undefined,
    range: Range,
    confidence: Confidence,
    starts?: string,
  ): void => {
    const key = `${domain ?? ''} ${value}`;
    const same = known.get(key);
    const started = starts === undefined ? [] : [starts];
    if (same) {
      if (!started.every((name) => same.starts.includes(name))) same.starts.push(...started);
      return;
    }
    const account = { value, label, domain, range, confidence, starts: started };
    known.set(key, account);
    accounts.push(account);
  };
  for (const { address, range, confidence } of seen.loads) {
    const domain = domainOf(address);
    if (domain === undefined) continue;
    for (const [name, value] of queryOf(address)) {
      if (isCacheBuster(name)) continue;
      else if (isAccountValue(value, name)) add(value, name, domain, range, confidence);
      else if (isIdSegment(value)) add(value, name, domain, range, 'likely');
    }
    for (const segment of pathSegments(address))
      if (isIdSegment(segment)) add(segment, 'path', domain, range, 'likely');
  }
  for (const { tag, name, value, range, address } of seen.attributes) {
    const label = /^data-(.+)$/.exec(name)?.[1] ?? ownLabel(tag, name);
    if (label === undefined) continue;
    if (isAccountValue(value, label))
      add(value, label, domainOf(address ?? '') ?? only, range, tag === 'script' ? 'certain' : 'likely');
  }
  for (const call of seen.calls) fromCall(call, only, add);
  for (const [name, value] of seen.globals) {
    const range = ranges.get(name);
    if (!range) continue;
    if (value.kind === 'object') fromObject(value.properties, only, value.range, add);
    if (value.kind === 'text' && isAccountValue(value.text, name))
      add(value.text, name, only, range, 'likely');
    if (value.kind === 'array')
      for (const item of value.items)
        if (item.kind === 'array') fromEntry(name, item.items, only, item.range, add);
  }
  return accounts;
}

/** Attributes that HTML knows, whatever they hold. */
const STANDARD = /^(?:id|class|name|type|src|slot|style|title|form|part|is|key|code|charset|language|nonce)$/;

/** An attribute of a loader, or of a tag that only a script can define, that HTML has none like. */
function ownLabel(tag: string, name: string): string | undefined {
  const isOwn = tag === 'script' || tag.includes('-');
  return isOwn && (!STANDARD.test(name) || (tag.includes('-') && /^(?:key|code)$/.test(name)))
    ? name
    : undefined;
}

type Add = (
  value: string,
  label: string,
  domain: string | undefined,
  range: Range,
  confidence: Confidence,
  starts?: string,
) => void;

function fromCall(call: SeenCall, domain: string | undefined, add: Add): void {
  const last = call.name.split('.').at(-1)!;
  const [first, second] = call.args;
  const root = call.name.split('.')[0]!;
  if (last === 'push') {
    // `queue.push('init', 'X-1')`
    if (first?.kind === 'text') fromEntry(root, call.args, domain, call.range, add);
    for (const value of call.args) {
      if (value.kind === 'array') fromEntry(root, value.items, domain, call.range, add);
      if (value.kind === 'object') fromObject(value.properties, domain, call.range, add);
    }
    return;
  }
  if (
    /^(getElementById|querySelector\w*|createElement\w*|setAttribute|getAttribute|addEventListener|getItem|setItem|log|warn|error|write|indexOf|split|join|replace|test|match)$/.test(
      last,
    )
  )
    return;
  if (first?.kind === 'text' && second && INTRODUCES.test(first.text)) {
    if (second.kind === 'text' && isAccountValue(second.text, 'id'))
      add(second.text, first.text, domain, call.ranges[1] ?? call.range, 'certain', root);
    if (second.kind === 'object') fromObject(second.properties, domain, call.range, add);
    return;
  }
  if (!INTRODUCES.test(last)) return;
  if (first?.kind === 'text' && isAccountValue(first.text, 'id'))
    add(first.text, last, domain, call.ranges[0] ?? call.range, 'certain', root);
  for (const value of call.args)
    if (value.kind === 'object') fromObject(value.properties, domain, call.range, add);
}

/** `['setAccount', 'X-1']`, as queues take it. */
function fromEntry(
  queue: string,
  items: readonly Value[],
  domain: string | undefined,
  range: Range,
  add: Add,
): void {
  const [verb, value] = items;
  if (verb?.kind !== 'text' || !INTRODUCES.test(verb.text)) return;
  if (value?.kind === 'text' && isAccountValue(value.text, 'id'))
    add(value.text, verb.text, domain, range, 'certain', queue);
  if (value?.kind === 'object') fromObject(value.properties, domain, range, add);
}

function fromObject(
  properties: ReadonlyMap<string, Value>,
  domain: string | undefined,
  range: Range,
  add: Add,
): void {
  for (const [name, value] of properties) {
    const written =
      value.kind === 'text'
        ? value.text
        : value.kind === 'plain' && typeof value.value === 'number'
          ? String(value.value)
          : undefined;
    if (written !== undefined && isAccountValue(written, name)) add(written, name, domain, range, 'likely');
  }
}

/** Whether a value under a name looks like an account. */
export function isAccountValue(value: string, label: string): boolean {
  if (value.includes(HOLE) || !LABEL.test(label.replace(/([a-z])([A-Z])/g, '$1-$2'))) return false;
  return looksLikeId(value);
}

/** A short mark without spaces that is no version, date, measure, address or word for yes and no. */
function looksLikeId(value: string): boolean {
  if (!/^[\w.:-]{2,64}$/.test(value)) return false;
  if (
    /^(true|false|yes|no|on|off|auto|none|null|undefined|default|async|defer|left|right|top|bottom|light|dark|en|de|fr)$/i.test(
      value,
    )
  )
    return false;
  if (/^v?\d+(\.\d+)+$/.test(value) || /^\d{4}-\d\d-\d\d/.test(value)) return false;
  if (/^\d+(px|em|rem|%|ms|s)$/.test(value) || /^#/.test(value)) return false;
  // Seconds and milliseconds since 1970, as cache-busters are.
  return !/^1[5-9]\d{8}(\d{3})?$/.test(value);
}

function pathSegments(address: string): string[] {
  const path = address.split(/[?#]/, 1)[0]!.replace(/^(?:https?:)?\/\/[^/]*/i, '');
  return path
    .split('/')
    .map((segment) => segment.replace(/\.(js|mjs|html?|php|css|png|gif|jpe?g|svg|json)$/i, ''));
}

/** A part of a path is an account only by its look: letters, a dash and digits, or many digits. */
function isIdSegment(segment: string): boolean {
  return /^[A-Z]{1,6}-[A-Z0-9][A-Z0-9-]{2,}$/.test(segment) || /^\d{6,12}$/.test(segment);
}
