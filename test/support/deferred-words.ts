import pg from 'pg';

/** The columns that hold what is kept for readers of any language. */
const KEPT = ['said', 'judged_said'];

/** Where a database holds what only these columns should: `visit.title`. */
export async function misplacedWords(databaseUrl: string): Promise<string[]> {
  const database = new pg.Client({ connectionString: databaseUrl });
  await database.connect();
  const { rows: columns } = await database.query<{ table: string; column: string }>(
    `select table_name as "table", column_name as "column" from information_schema.columns
     where table_schema = 'public' and data_type in ('text', 'character varying', 'json', 'jsonb')`,
  );
  const found: string[] = [];
  for (const { table, column } of columns) {
    if (KEPT.includes(column)) continue;
    const { rowCount } = await database.query(
      `select 1 from "${table}" where "${column}"::text like '%' || chr(64976) || '%' limit 1`,
    );
    if (rowCount) found.push(`${table}.${column}`);
  }
  await database.end();
  return found;
}
