import type { Rectangle } from '../visit/index.js';

/** Whether two boxes have a place in common. */
export function meets(a: Rectangle, b: Rectangle): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}
