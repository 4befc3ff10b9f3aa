/** Something that can be found by its name. */
export interface Findable {
  readonly label: string;
  /** Other words by which somebody may look for it. */
  readonly also?: string;
}

/** Without accents and case, so that nobody has to type them. */
function plain(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
}

/**
 * Those that all words are in, the best first: at the very beginning, at the beginning of a word, within one. What is as good as another
 * stays in the order given. Nothing typed finds all.
 */
export function found<T extends Findable>(items: readonly T[], typed: string, most: number): T[] {
  const words = plain(typed).split(/\s+/).filter(Boolean);
  if (words.length === 0) return items.slice(0, most);
  return items
    .map((item) => ({ item, score: scoreOf(item, words) }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map(({ item }) => item);
}

const NO_WORD = /[^\p{L}\p{N}]+/u;

const [AT_START, AT_WORD, WITHIN, ELSEWHERE] = [8, 4, 2, 1];

/** 0 where a word is not in it. */
function scoreOf({ label, also = '' }: Findable, words: readonly string[]): number {
  const [name, more] = [plain(label), plain(also)];
  let score = 0;
  for (const word of words) {
    const at = name.indexOf(word);
    if (at === 0) score += AT_START;
    else if (at > 0) score += name.split(NO_WORD).some((one) => one.startsWith(word)) ? AT_WORD : WITHIN;
    else if (more.includes(word)) score += ELSEWHERE;
    else return 0;
  }
  return score;
}
