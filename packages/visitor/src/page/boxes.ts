import type { NumberedBox } from '@pragmatica/core';

/** Where the elements with an attribute are on the whole page. Handed to the browser as text, in a world of its own. */
export function boxesOf(attribute: string): NumberedBox[] {
  const MAX_BOXES = 5_000;
  const boxes: NumberedBox[] = [];
  for (const element of document.querySelectorAll(`[${attribute}]`)) {
    const { x, y, width, height } = element.getBoundingClientRect();
    if (width < 1 || height < 1 || !element.checkVisibility({ visibilityProperty: true })) continue;
    const box = {
      x: Math.round(x + window.scrollX),
      y: Math.round(y + window.scrollY),
      width: Math.round(width),
      height: Math.round(height),
    };
    boxes.push({ number: Number(element.getAttribute(attribute)), box });
    if (boxes.length === MAX_BOXES) break;
  }
  return boxes;
}
