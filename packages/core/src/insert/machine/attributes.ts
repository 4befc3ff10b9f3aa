import type { Machine } from './state.js';

/** Questions about the attributes of the current start tag (HTML Standard 13.2.5.32–40). Values are as written. */

const FONT_ATTRIBUTES = ' color face size ';
const HTML_TYPES = ' text/html application/xhtml+xml ';

/** Whether the tag has a color, face or size. */
export function hasFontAttribute(m: Machine): boolean {
  const walk = new Walk(m);
  while (walk.next()) if (walk.nameIn(FONT_ATTRIBUTES)) return true;
  return false;
}

/** Whether an annotation-xml holds HTML. */
export function isHtmlAnnotation(m: Machine): boolean {
  const walk = new Walk(m);
  while (walk.next()) if (walk.nameIn(' encoding ')) return walk.valueIn(HTML_TYPES);
  return false;
}

export function isHiddenInput(m: Machine): boolean {
  const walk = new Walk(m);
  while (walk.next()) if (walk.nameIn(' type ')) return walk.valueIn(' hidden ');
  return false;
}

function isSpace(byte: number): boolean {
  return byte === 0x20 || byte === 0x0a || byte === 0x0d || byte === 0x09 || byte === 0x0c;
}

/** Goes through the attributes of a complete tag. */
class Walk {
  readonly #m: Machine;
  readonly #last: number;
  #at: number;
  #nameFrom: number = 0;
  #nameTo: number = 0;
  #valueFrom: number = 0;
  #valueTo: number = 0;

  constructor(m: Machine) {
    this.#m = m;
    this.#at = m.tagNameEnd;
    this.#last = m.tagEnd - 1;
  }

  next(): boolean {
    const window = this.#m.window;
    const last = this.#last;
    let i = this.#at;
    while (i < last && (isSpace(window.get(i)) || window.get(i) === 0x2f)) i++;
    if (i >= last) return false;
    this.#nameFrom = i;
    i++;
    while (i < last && !isSpace(window.get(i)) && window.get(i) !== 0x2f && window.get(i) !== 0x3d) i++;
    this.#nameTo = i;
    while (i < last && isSpace(window.get(i))) i++;
    this.#valueFrom = i;
    this.#valueTo = i;
    if (i < last && window.get(i) === 0x3d) {
      i++;
      while (i < last && isSpace(window.get(i))) i++;
      const quote = i < last ? window.get(i) : 0;
      if (quote === 0x22 || quote === 0x27) {
        this.#valueFrom = i + 1;
        this.#valueTo = window.find(quote, i + 1, last);
        i = this.#valueTo + 1;
      } else {
        this.#valueFrom = i;
        while (i < last && !isSpace(window.get(i))) i++;
        this.#valueTo = i;
      }
    }
    this.#at = i;
    return true;
  }

  nameIn(names: string): boolean {
    return this.#isIn(this.#nameFrom, this.#nameTo, names);
  }

  valueIn(values: string): boolean {
    return this.#isIn(this.#valueFrom, this.#valueTo, values);
  }

  /** Whether the bytes, compared without case, are one of the words in the list (with spaces around each). */
  #isIn(from: number, to: number, list: string): boolean {
    let at = 1;
    while (at < list.length) {
      const end = list.indexOf(' ', at);
      if (end - at === to - from) {
        let i = 0;
        while (i < to - from) {
          let byte = this.#m.window.get(from + i);
          if (byte >= 0x41 && byte <= 0x5a) byte |= 0x20;
          if (byte !== list.charCodeAt(at + i)) break;
          i++;
        }
        if (i === to - from) return true;
      }
      at = end + 1;
    }
    return false;
  }
}
