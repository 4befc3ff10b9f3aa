import type { Machine } from './state.js';

/**
 * Moves on over text and whole tags of ordinary elements (`fast-path.ts`), as far as it likes. Here that is nothing: it
 * pays with the vectors of the WebAssembly build, which takes its own file of the same shape
 * (`packages/core/assembly/pass.ts`).
 *
 * @returns whether the machine stands at a tag of the skeleton that has been read: its number, whether it is an end tag
 * (`isEndTag`), its name's end and its end
 */
export function passOrdinary(m: Machine): boolean {
  m.isRead = false;
  return false;
}

/**
 * Moves on over text and whole elements without children in an svg or math element, as far as it likes: those that
 * close themselves, and those whose end tag comes next. Their names must mean nothing in foreign content.
 */
export function passForeign(m: Machine): void {
  m.isRead = false;
}

/** The end of the tag whose name ends at `nameEnd`, if all of its values are written plainly; 0 for not known. Here only one without any. */
export function plainTagEnd(m: Machine, nameEnd: number): number {
  return m.window.get(nameEnd) === 0x3e ? nameEnd + 1 : 0;
}
