/** The middle of numbers, of which there is at least one; the mean of the two in the middle where there is none. */
export function median(numbers: readonly number[]): number {
  const sorted = numbers.toSorted((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
