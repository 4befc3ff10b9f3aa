import type { Edit } from './page-inserter.js';

/** So many bytes before each place must be the ones that stood there before. */
const WITNESS_BYTES = 16;

interface Place extends Edit {
  /** The page's bytes right before the offset. */
  readonly witness: Uint8Array;
}

/** Where parts go in a page of exactly known bytes: found once, used for every load of the same page. */
export interface PagePlaces {
  readonly places: readonly Place[];
  /** Bytes of the page, and of what is put in. */
  readonly length: number;
  readonly added: number;
}

/** What an inserter has found, to be used again for the same bytes. */
export function recordPlaces(inserter: { readonly edits: readonly Edit[] }, page: Uint8Array): PagePlaces {
  const places = inserter.edits.map(({ offset, bytes }) => ({
    offset,
    bytes,
    // A copy: a view would keep the whole page.
    witness: Uint8Array.from(page.subarray(Math.max(0, offset - WITNESS_BYTES), offset)),
  }));
  return {
    places,
    length: page.length,
    added: places.reduce((sum, place) => sum + place.bytes.length, 0),
  };
}

/**
 * Puts parts at remembered places, without reading the page. The bytes before each place are compared: should they
 * differ, nothing more is put in, and `isAnother` says so.
 */
export class CachedPlacesInserter {
  readonly #places: readonly Place[];
  #next = 0;
  #offset = 0;
  /** The last bytes before this chunk. */
  #tail = new Uint8Array(0);
  #isAnother = false;

  constructor(places: PagePlaces) {
    this.#places = places.places;
  }

  /** The page is not the one whose places were remembered. */
  get isAnother(): boolean {
    return this.#isAnother;
  }

  /** Takes a chunk and gives it out with what belongs into it. */
  write(chunk: Uint8Array): Uint8Array[] {
    if (this.#isAnother || this.#next === this.#places.length) return [chunk];
    const out: Uint8Array[] = [];
    const end = this.#offset + chunk.length;
    let from = this.#offset;
    // A place at the very end of a chunk may be the end of the page, or wait for the next chunk: both are the same.
    while (this.#next < this.#places.length && this.#places[this.#next]!.offset <= end) {
      const { offset, bytes, witness } = this.#places[this.#next]!;
      if (!this.#stands(chunk, offset, witness)) {
        this.#isAnother = true;
        break;
      }
      if (offset > from) out.push(chunk.subarray(from - this.#offset, offset - this.#offset));
      out.push(bytes);
      from = offset;
      this.#next++;
    }
    if (from < end) out.push(chunk.subarray(from - this.#offset));
    this.#keepTail(chunk);
    this.#offset = end;
    return out;
  }

  /** Ends the page. */
  end(): Uint8Array[] {
    if (this.#isAnother) return [];
    const out: Uint8Array[] = [];
    for (; this.#next < this.#places.length; this.#next++) {
      const { offset, bytes } = this.#places[this.#next]!;
      if (offset !== this.#offset) {
        this.#isAnother = true;
        break;
      }
      out.push(bytes);
    }
    return out;
  }

  #stands(chunk: Uint8Array, offset: number, witness: Uint8Array): boolean {
    for (let i = 0; i < witness.length; i++) {
      const at = offset - witness.length + i - this.#offset;
      const byte = at >= 0 ? chunk[at] : this.#tail[this.#tail.length + at];
      if (byte !== witness[i]) return false;
    }
    return true;
  }

  #keepTail(chunk: Uint8Array): void {
    if (chunk.length >= WITNESS_BYTES)
      this.#tail = Uint8Array.from(chunk.subarray(chunk.length - WITNESS_BYTES));
    else {
      const joined = new Uint8Array(this.#tail.length + chunk.length);
      joined.set(this.#tail);
      joined.set(chunk, this.#tail.length);
      this.#tail = joined.slice(Math.max(0, joined.length - WITNESS_BYTES));
    }
  }
}
