/**
 * Indexes of a longest rising run of numbers, others left out (patience sorting, Fredman 1975).
 *
 * @returns in order
 */
export function longestRising(numbers: readonly number[]): number[] {
  /** Of the runs of each length, the index at which the one ends that ends lowest. */
  const ends: number[] = [];
  const before = new Int32Array(numbers.length);
  for (const [index, number] of numbers.entries()) {
    let [low, high] = [0, ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (numbers[ends[middle]!]! < number) low = middle + 1;
      else high = middle;
    }
    before[index] = ends[low - 1] ?? -1;
    ends[low] = index;
  }
  const run: number[] = [];
  for (let at = ends.at(-1) ?? -1; at >= 0; at = before[at]!) run.push(at);
  return run.reverse();
}
