import type { LinePlace } from '../types.js';

/** How a place takes parts, and the element that they come into. */
export type Place = readonly [put: (content: DocumentFragment) => void, context: Node | null];

export type PlaceAt = typeof placeAt;

/**
 * At a side of the first element of the page as it came that a selector fits; step by step, so that each element is looked
 * at once. What parts have put in is not counted. Sent only with releases that ask for elements.
 *
 * @returns undefined while it is not there
 */
export const placeAt = (
  [side, steps]: Exclude<LinePlace, number>,
  ours: WeakMap<object, string>,
  shown: readonly Element[][],
): Place | undefined => {
  const page = document;
  const isOwn = (element: Element): unknown =>
    ours.has(element) || shown.some((elements) => elements.includes(element));
  /** Its place among its parent's children, those of a name where one is given. */
  const positionOf = (element: Element, name?: string): number => {
    let position = 1;
    for (let one = element.previousElementSibling; one; one = one.previousElementSibling)
      if (!isOwn(one) && (!name || name === one.localName)) position++;
    return position;
  };
  let around: Set<Element> | undefined;
  for (const [matches, isChild, child, ofType] of steps) {
    const fitting = new Set<Element>();
    for (const element of page.querySelectorAll(matches)) {
      let outer = element.parentElement;
      if (around && !isChild) while (outer && !around.has(outer)) outer = outer.parentElement;
      if (
        !((child || ofType) && isOwn(element)) &&
        (!around || (outer && around.has(outer))) &&
        (!child || positionOf(element) === child) &&
        (!ofType || positionOf(element, element.localName) === ofType)
      )
        fitting.add(element);
    }
    around = fitting;
  }
  const anchor = around!.values().next().value;
  // Its last child is known once something stands behind it.
  if (!anchor || (side === 2 && page.readyState === 'loading' && !anchor.nextSibling)) return undefined;
  return [
    (content) => anchor[(['before', 'prepend', 'append', 'after'] as const)[side]](content),
    side === 1 || side === 2 ? anchor : anchor.parentNode,
  ];
};
