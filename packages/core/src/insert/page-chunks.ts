import { concatBytes } from './bytes.js';

/** The chunks of a page that have not been given out, by the page's offsets. */
export class PageChunks {
  readonly #chunks: { readonly start: number; readonly bytes: Uint8Array }[] = [];
  #end = 0;

  /** One past the last byte. */
  get end(): number {
    return this.#end;
  }

  add(bytes: Uint8Array): void {
    if (bytes.length > 0) this.#chunks.push({ start: this.#end, bytes });
    this.#end += bytes.length;
  }

  /** Adds the slices that hold `[from, to)`. */
  copyTo(slices: Uint8Array[], from: number, to: number): void {
    for (const { start, bytes } of this.#chunks) {
      if (start >= to) return;
      const first = Math.max(from - start, 0);
      const last = Math.min(to - start, bytes.length);
      if (first < last)
        slices.push(first === 0 && last === bytes.length ? bytes : bytes.subarray(first, last));
    }
  }

  /** The bytes of `[from, to)` in one piece. */
  bytes(from: number, to: number): Uint8Array {
    const slices: Uint8Array[] = [];
    this.copyTo(slices, from, to);
    return slices.length === 0 ? new Uint8Array(0) : concatBytes(slices);
  }

  /** Forgets what lies before an offset. */
  dropBefore(offset: number): void {
    let count = 0;
    while (
      count < this.#chunks.length &&
      this.#chunks[count]!.start + this.#chunks[count]!.bytes.length <= offset
    )
      count++;
    if (count > 0) this.#chunks.splice(0, count);
  }
}
