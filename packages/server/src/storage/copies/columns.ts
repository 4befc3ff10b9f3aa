import type { Run } from '../run.js';
import { COPIED } from './tables.js';

/** The columns of a schema's tables that travel, by table; in their order. */
export async function columnsOf(run: Run, schema: string): Promise<ReadonlyMap<string, readonly string[]>> {
  const rows = await run<{ table: string; columns: string[] }>(
    `select table_name as table, array_agg(column_name::text order by ordinal_position) as columns
     from information_schema.columns where table_schema = ? and is_generated = 'NEVER' group by table_name`,
    [schema],
  );
  const all = new Map(rows.map(({ table, columns }) => [table, columns]));
  return new Map(
    COPIED.flatMap(({ name, leaves = [] }) => {
      const columns = all.get(name)?.filter((column) => !leaves.includes(column));
      return columns ? [[name, columns] as const] : [];
    }),
  );
}

/** The columns of each table's primary key, by table. */
export async function keysOf(run: Run): Promise<ReadonlyMap<string, readonly string[]>> {
  const rows = await run<{ table: string; columns: string[] }>(
    `select c.relname as table, array_agg(a.attname::text order by k.place) as columns
     from pg_index i join pg_class c on c.oid = i.indrelid join pg_namespace n on n.oid = c.relnamespace
     cross join unnest(i.indkey) with ordinality k(number, place)
     join pg_attribute a on a.attrelid = c.oid and a.attnum = k.number
     where i.indisprimary and n.nspname = current_schema() group by c.relname`,
  );
  return new Map(rows.map(({ table, columns }) => [table, columns]));
}

/** The sequence that numbers each table, by table. */
export async function sequencesOf(run: Run, schema: string): Promise<ReadonlyMap<string, string>> {
  const rows = await run<{ table: string; sequence: string }>(
    `select t.relname as table, s.relname as sequence
     from pg_class s join pg_depend d on d.objid = s.oid and d.deptype = 'a' and d.classid = 'pg_class'::regclass
     join pg_class t on t.oid = d.refobjid join pg_namespace n on n.oid = t.relnamespace
     where s.relkind = 'S' and n.nspname = ?`,
    [schema],
  );
  return new Map(rows.map(({ table, sequence }) => [table, sequence]));
}
