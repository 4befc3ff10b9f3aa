import { memoizeByObject } from '../../memoize/by-object.js';
import type { ReadCode, ShapeKind } from '../../facts/index.js';
import type { ReadPart } from '../read-part.js';

/** What loaders call the one of their products that they are to show. */
const PRODUCT =
  /[?&"'\s{,;](?:data-)?(product|module|widget|feature|tool|plugin|service|component|show)["']?\s*[=:]\s*["']?([\w-]+)/gi;
/** Kinds of which a page may well have several from one provider, each with an id of its own. */
const SEVERAL: ReadonlySet<ShapeKind> = new Set(['form', 'booking', 'share', 'ads', 'pop-up', 'other']);
/** Kinds that do not show anything: counting twice is what they do wrong. */
const COUNTING: ReadonlySet<ShapeKind> = new Set(['analytics', 'pixel', 'container', 'other']);

const productsOf = memoizeByObject(({ code }: ReadCode): ReadonlyMap<string, string> => {
  const found = new Map<string, string>();
  for (const { 1: name, 2: value } of code.matchAll(PRODUCT))
    found.set(name!.toLowerCase(), value!.toLowerCase());
  return found;
});

/** Whether two codes ask for two products by name. */
export function haveTwoProducts(a: ReadPart, b: ReadPart): boolean {
  const products = productsOf(b.read);
  for (const [name, value] of productsOf(a.read))
    if (products.has(name) && products.get(name) !== value) return true;
  return false;
}

/** Whether two parts of one provider and account are two of its products, or two pieces of one kind, and no double. */
export function areTwoProducts(a: ReadPart, b: ReadPart): boolean {
  if (haveTwoProducts(a, b)) return true;
  const [one, other] = [a.facts.shape, b.facts.shape];
  if (one.kind !== other.kind && !(COUNTING.has(one.kind) && COUNTING.has(other.kind))) return true;
  // A form and another form have the account in common, and not the form.
  return SEVERAL.has(one.kind) && one.kind === other.kind && hasOwn(a, b) && hasOwn(b, a);
}

/** Whether a part has an account that another has not. */
function hasOwn(a: ReadPart, b: ReadPart): boolean {
  const values = new Set(b.facts.accounts.map(({ value }) => value));
  return a.facts.accounts.some(({ value }) => !values.has(value));
}
