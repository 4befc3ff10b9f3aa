import { parse, type DefaultTreeAdapterTypes } from 'parse5';
import type { Protocol } from './protocol.js';

/*
 * Which elements of a page can a script have made? The browser tells of one element what made it, and a page has thousands,
 * so it is asked only about those that are not in the page as it was delivered.
 */

type Live = Protocol.DOM.Node;
type Delivered = DefaultTreeAdapterTypes.Element;
type DeliveredParent = DefaultTreeAdapterTypes.Document | Delivered;

/** An element that did not come like this with the page, and such elements in it. */
export interface NewElement {
  readonly node: Live;
  readonly inside: readonly NewElement[];
}

/** The pages' own three stay what they are, whatever a script writes on them. */
const FRAME = new Set(['html', 'head', 'body']);
const MAX_NEW = 6_000;

/**
 * The elements of a page that did not come with it, the outermost first, each with those in it.
 *
 * Children are held against those of the same parent as delivered. Those of the same tag and attributes are taken for the same
 * when there are as many of them as were delivered, and as many of the tag: with one more, any may be the one that was added. What
 * cannot be told apart counts as new, but its children are still compared where it is clear which it was. What a script has put in
 * the place of its like is not seen.
 *
 * @param root - the document, whole, with its shadow trees
 * @param html - the page as delivered; all is new where there is none
 */
export function notDelivered(root: Live, html: string): readonly NewElement[] {
  let left = MAX_NEW;
  // Browsers nest elements 512 deep at most.
  const newOnes = (live: Live, delivered: DeliveredParent | undefined): NewElement[] => {
    const before = pairs(live, delivered);
    const found: NewElement[] = [];
    for (const child of [...(live.children ?? []), ...(live.shadowRoots ?? [])]) {
      const pair = before.get(child);
      const inside = newOnes(child, pair?.element);
      if (child.nodeType !== 1 || pair?.isSame === true) found.push(...inside);
      else if (left-- > 0) found.push({ node: child, inside });
    }
    return found;
  };
  return newOnes(root, html === '' ? undefined : parse(html));
}

interface Pair {
  readonly element: Delivered;
  readonly isSame: boolean;
}

function pairs(live: Live, delivered: DeliveredParent | undefined): ReadonlyMap<Live, Pair> {
  const paired = new Map<Live, Pair>();
  if (!delivered) return paired;
  const now = (live.children ?? []).filter(({ nodeType }) => nodeType === 1);
  const then = delivered.childNodes.filter((node): node is Delivered => 'tagName' in node);
  const thenByTag = groupBy(then, ({ tagName }) => tagName);
  for (const [tag, ones] of groupBy(now, ({ localName }) => localName)) {
    const before = thenByTag.get(tag) ?? [];
    const isComplete = ones.length === before.length;
    const used = new Set<Delivered>();
    const pairAll = (nodes: readonly Live[], elements: readonly Delivered[], isSame: boolean): void => {
      if (nodes.length !== elements.length) return;
      for (const [index, node] of nodes.entries()) {
        const element = elements[index]!;
        paired.set(node, { element, isSame: isSame || FRAME.has(tag) });
        used.add(element);
      }
    };
    const beforeByLook = groupBy(before, deliveredLook);
    for (const [look, nodes] of groupBy(ones, liveLook))
      pairAll(nodes, beforeByLook.get(look) ?? [], isComplete);
    const left = ones.filter((node) => !paired.has(node));
    pairAll(
      left,
      before.filter((element) => !used.has(element)),
      false,
    );
  }
  return paired;
}

function groupBy<T>(all: readonly T[], nameOf: (one: T) => string): ReadonlyMap<string, readonly T[]> {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const name = nameOf(one);
    const group = groups.get(name);
    if (group) group.push(one);
    else groups.set(name, [one]);
  }
  return groups;
}

function liveLook({ localName, attributes = [] }: Live): string {
  const each: string[] = [];
  for (let at = 0; at < attributes.length; at += 2) each.push(`${attributes[at]}=${attributes[at + 1]}`);
  return look(localName, each);
}

function deliveredLook({ tagName, attrs }: Delivered): string {
  return look(
    tagName,
    attrs.map(({ name, prefix, value }) => `${prefix ? `${prefix}:` : ''}${name}=${value}`),
  );
}

function look(name: string, attributes: readonly string[]): string {
  return [name, ...attributes.toSorted()].join('\n');
}
