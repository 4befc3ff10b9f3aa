/** SQL with its parameters, to be put into a statement. */
export interface Condition {
  readonly sql: string;
  readonly params: readonly unknown[];
}

/**
 * That one of several texts has a word, for every word that was searched for, whatever the case.
 *
 * @param texts - SQL expressions of texts
 */
export function hasWords(texts: readonly string[], searched: string): Condition {
  const words = searched.split(/\s+/).filter(Boolean);
  const one = `(${texts.map((text) => `${text} ilike ?`).join(' or ')})`;
  return {
    sql: ['true', ...words.map(() => one)].join(' and '),
    params: words.flatMap((word) => texts.map(() => `%${word.replace(/[\\%_]/g, '\\$&')}%`)),
  };
}
