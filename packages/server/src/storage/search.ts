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

/** Keys of sites, or all of them. */
export type SomeSites = 'all' | readonly string[];

/** That a key is one of some sites'. @param column - SQL expression of the key */
export function ofSites(column: string, sites: SomeSites): Condition {
  if (sites === 'all') return { sql: 'true', params: [] };
  return {
    sql: `${column} = any(?::text[])`,
    params: [`{${sites.map((key) => JSON.stringify(key)).join()}}`],
  };
}

/** That all of some conditions hold. */
export function allOf(...conditions: readonly Condition[]): Condition {
  return {
    sql: conditions.map(({ sql }) => sql).join(' and '),
    params: conditions.flatMap(({ params }) => params),
  };
}
