/** A set of small numbers, 32 to a word. */
export class Bits {
  readonly words: Uint32Array;

  constructor(size: number) {
    this.words = new Uint32Array((size + 31) >>> 5);
  }

  static of(size: number, members: Iterable<number>): Bits {
    const bits = new Bits(size);
    for (const member of members) bits.add(member);
    return bits;
  }

  add(member: number): void {
    this.words[member >>> 5]! |= 1 << (member & 31);
  }

  addAll(other: Bits): void {
    for (let i = 0; i < this.words.length; i++) this.words[i]! |= other.words[i]!;
  }

  has(member: number): boolean {
    return (this.words[member >>> 5]! & (1 << (member & 31))) !== 0;
  }

  /** What this holds and the other does not. */
  without(other: Bits): Bits {
    const rest = new Bits(this.words.length << 5);
    for (let i = 0; i < rest.words.length; i++) rest.words[i] = this.words[i]! & ~other.words[i]!;
    return rest;
  }

  meets(other: Bits): boolean {
    return this.words.some((word, i) => (word & other.words[i]!) !== 0);
  }

  /** Equal sets have equal keys. */
  get key(): string {
    return this.words.join();
  }
}
