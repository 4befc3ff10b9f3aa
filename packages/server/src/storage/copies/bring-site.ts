import { columnsOf, sequencesOf } from './columns.js';
import { quoted, type LongConnection } from './connection.js';
import { COPY_TEXTS } from '../../texts/copies.js';
import { say } from '../../texts/say.js';
import type { Run } from '../run.js';

/** The backup has no such site. */
export class NoSuchSite extends Error {
  override name = 'NoSuchSite';

  constructor(
    readonly key: string,
    readonly known: readonly string[],
  ) {
    super();
  }
}

/** There is a site of that name already. */
export class SiteExists extends Error {
  override name = 'SiteExists';

  constructor(readonly key: string) {
    super();
  }
}

export interface BroughtSite {
  readonly id: number;
  /** The id that it had. */
  readonly oldId: number;
  readonly name: string;
  readonly snippets: number;
  readonly releases: number;
  readonly hosts: readonly string[];
  /** Hosts that belong to another site by now. */
  readonly takenHosts: readonly string[];
}

export interface Bringing {
  /** Key of the site in the backup. */
  readonly site: string;
  /** Its key here. */
  readonly as: string;
  /** That the backup is of. */
  readonly day: string;
}

/** How the rows of a table come into this installation with their site. */
interface Moved {
  readonly table: string;
  /** Columns that name rows of these tables: their new ids are put in. The first one also says which rows belong to the site. */
  readonly refs: Readonly<Record<string, string>>;
  /** Whether others name its rows by their id. */
  readonly isNamed?: boolean;
  /** Which of them, beside. `t` is the row. */
  readonly where?: string;
  /** Columns with a value of their own, as SQL. */
  readonly values?: Readonly<Record<string, string>>;
}

/** Contents of releases stand in them as a list of ids. */
const FROZEN = `(select coalesce(array_agg(m.new order by o.place), '{}') from unnest(t.snippets) with ordinality o(id, place)
  join map_release_content m on m.old = o.id)`;
const HOST_CAME = `exists (select from public.host h where h.site_id = (select new from map_site) and h.host = t.host)`;

/** What comes with a site. One more table is one more entry here, or a line in `STAYS`; a test compares them with what travels. */
export const MOVED: readonly Moved[] = [
  {
    table: 'host',
    refs: { site_id: 'site' },
    where: 'not exists (select from public.host h where h.host = t.host)',
  },
  { table: 'host_access', refs: { site_id: 'site' }, where: HOST_CAME },
  {
    table: 'host_policy',
    refs: { site_id: 'site' },
    where: HOST_CAME,
    values: { needs: `'{}'`, needs_release: 'null', needs_survey: 'null' },
  },
  { table: 'snippet', refs: { site_id: 'site' }, isNamed: true },
  { table: 'part', refs: { snippet_id: 'snippet' } },
  {
    table: 'release',
    refs: { site_id: 'site', header_id: 'release_content' },
    isNamed: true,
    values: { snippets: FROZEN },
  },
  { table: 'pointer', refs: { site_id: 'site', release_id: 'release' } },
  { table: 'waiver', refs: { site_id: 'site' } },
  { table: 'step_tick', refs: { site_id: 'site' } },
  { table: 'comment', refs: { site_id: 'site' } },
  { table: 'membership', refs: { site_id: 'site', member_id: 'member' } },
  { table: 'approval_rule', refs: { site_id: 'site' } },
  { table: 'approval', refs: { site_id: 'site' } },
  { table: 'given_page', refs: { site_id: 'site' } },
  { table: 'paste_boxes', refs: { site_id: 'site' } },
  { table: 'pasted_block', refs: { site_id: 'site' } },
];

const EVIDENCE = 'It is evidence, which is made anew in minutes.';
const ACTS = 'It would act by itself: that is for an owner to turn on.';
const MADE_ANEW = 'It is worked out of the rest.';
const LINK = 'A link that was sent out opens what it was made for, not a copy of it.';
const INSTALLATION = 'It is of the installation, not of a site.';
const ACCESS = 'Who may sign in, and with what, is for owners of this installation to say.';
const TRAIL = 'The trail is only ever added to.';

/** What stays in the file when a single site comes back, and why. */
export const STAYS: Readonly<Record<string, string>> = {
  ...{ survey: EVIDENCE, survey_file: EVIDENCE, survey_page: EVIDENCE, survey_shape: EVIDENCE },
  ...{ survey_text: EVIDENCE, sighting: EVIDENCE, composition: EVIDENCE, policy_report: EVIDENCE },
  ...{ visit_round: EVIDENCE, visit: EVIDENCE, visit_screenshot: EVIDENCE },
  ...{ standing: EVIDENCE, told_standing: EVIDENCE },
  ...{ survey_schedule: ACTS, site_watch: ACTS, webhook: ACTS, notice: ACTS },
  ...{ recognised_use: MADE_ANEW, site_summary: MADE_ANEW },
  ...{ handover: LINK, approval_link: LINK, invitation: LINK, invited_role: LINK },
  ...{ credential: ACCESS, token_site: ACCESS, recovery_code: ACCESS },
  ...{ passkey: ACCESS, identity: ACCESS },
  ...{ audit: TRAIL, trail_change: TRAIL, trail_link: TRAIL },
  backup_rule: INSTALLATION,
};

/** Things that sites share, by what makes them the same. */
export const SHARED: readonly {
  readonly table: string;
  readonly by: readonly string[];
  readonly isAdded: boolean;
}[] = [
  { table: 'member', by: ['login'], isAdded: false },
  { table: 'release_content', by: ['digest'], isAdded: true },
];

/**
 * Brings one site of a loaded backup into this installation, in the transaction that has been begun, as a site of its own.
 *
 * @throws NoSuchSite, SiteExists
 */
export async function bringSite(
  { run }: LongConnection,
  schema: string,
  { site: key, as, day }: Bringing,
): Promise<BroughtSite> {
  await run('set local search_path to public');
  const there = `${quoted(schema)}.`;
  const sites = await run<{ id: number; key: string; name: string }>(
    `select id, key, name from ${there}site order by key`,
  );
  const site = sites.find((one) => one.key === key);
  if (!site)
    throw new NoSuchSite(
      key,
      sites.map((one) => one.key),
    );
  const taken = await run('select from site where key = ?', [as]);
  if (taken.length > 0) throw new SiteExists(as);
  const columns = await columnsOf(run, 'public');
  const sequences = await sequencesOf(run, 'public');
  // Beside the one that it was, it is told apart by its name, too.
  const name = as === key ? site.name : say(COPY_TEXTS.broughtName, { name: site.name, day });
  const id = await addSite(run, there, { ...site, name }, { as, columns: columns.get('site')! });
  for (const { table, by, isAdded } of SHARED)
    await share(run, there, { table, by, isAdded, columns: columns.get(table)! });
  await addRecipes(run, there, site.id, columns.get('recipe')!);
  for (const moved of MOVED)
    await move(run, there, moved, {
      columns: columns.get(moved.table)!,
      sequence: sequences.get(moved.table),
    });
  const [hosts, was, counts] = [
    await run<{ host: string }>('select host from host where site_id = ? order by position', [id]),
    await run<{ host: string }>(`select host from ${there}host where site_id = ? order by position`, [
      site.id,
    ]),
    await run<{ snippets: number; releases: number }>(
      `select (select count(*)::int from snippet where site_id = ?) as snippets,
         (select count(*)::int from release where site_id = ?) as releases`,
      [id, id],
    ),
  ];
  const here = hosts.map(({ host }) => host);
  await dropMaps(run);
  await run(`drop schema ${quoted(schema)} cascade`);
  return {
    id,
    oldId: site.id,
    name,
    ...counts[0]!,
    hosts: here,
    takenHosts: was.map(({ host }) => host).filter((host) => !here.includes(host)),
  };
}

async function addSite(
  run: Run,
  there: string,
  { id, name }: { readonly id: number; readonly name: string },
  { as, columns }: { readonly as: string; readonly columns: readonly string[] },
): Promise<number> {
  const copied = columns
    .filter((column) => !['id', 'key', 'name'].includes(column))
    .map(quoted)
    .join(', ');
  const [added] = await run<{ id: number }>(
    `insert into site ("key", name, ${copied}) select ?, ?, ${copied} from ${there}site where id = ? returning id`,
    [as, name, id],
  );
  await makeMap(run, 'site');
  await run('insert into map_site (old, new) values (?, ?)', [id, added!.id]);
  return added!.id;
}

async function makeMap(run: Run, table: string): Promise<void> {
  await run(`create temporary table map_${table} (old int primary key, new int not null) on commit drop`);
}

async function dropMaps(run: Run): Promise<void> {
  const mapped = [...SHARED, ...MOVED.filter(({ isNamed }) => isNamed === true)].map(({ table }) => table);
  await run(`drop table ${['site', ...mapped].map((table) => `map_${table}`).join(', ')}`);
}

async function share(
  run: Run,
  there: string,
  { table, by, isAdded, columns }: (typeof SHARED)[number] & { readonly columns: readonly string[] },
): Promise<void> {
  if (isAdded) {
    const copied = columns
      .filter((column) => column !== 'id')
      .map(quoted)
      .join(', ');
    // Only what the site's releases are made of.
    await run(
      `insert into ${quoted(table)} (${copied}) select ${copied} from ${there}${quoted(table)} t
       where t.id in (select header_id from ${there}release where site_id = (select old from map_site)
         union select unnest(snippets) from ${there}release where site_id = (select old from map_site))
       on conflict do nothing`,
    );
  }
  await makeMap(run, table);
  const same = by.map((column) => `here.${quoted(column)} = t.${quoted(column)}`).join(' and ');
  await run(
    `insert into map_${table} (old, new)
     select t.id, here.id from ${there}${quoted(table)} t join ${quoted(table)} here on ${same}`,
  );
}

/** Versions of recipes that its snippets follow and that are not known here. */
async function addRecipes(run: Run, there: string, site: number, columns: readonly string[]): Promise<void> {
  const copied = columns
    .filter((column) => column !== 'id')
    .map(quoted)
    .join(', ');
  await run(
    `insert into recipe (${copied}) select ${copied} from ${there}recipe r where exists (
       select from ${there}snippet s where s.site_id = ? and s.recipe ->> 'key' = r.key
         and (s.recipe ->> 'version')::int = r.version)
     on conflict do nothing`,
    [site],
  );
}

async function move(
  run: Run,
  there: string,
  { table, refs, isNamed: isMapped, where, values = {} }: Moved,
  { columns, sequence }: { readonly columns: readonly string[]; readonly sequence: string | undefined },
): Promise<void> {
  const joins = Object.entries(refs).map(
    ([column, of]) => `join map_${of} m_${column} on m_${column}.old = t.${quoted(column)}`,
  );
  const from = (first: readonly string[]): string =>
    [
      `${there}${quoted(table)} t`,
      ...first,
      ...joins,
      ...(where === undefined ? [] : [`where ${where}`]),
    ].join(' ');
  if (isMapped) {
    await makeMap(run, table);
    await run(
      `insert into map_${table} (old, new)
       select id, nextval('${sequence}'::regclass) from (select t.id from ${from([])} order by t.id) rows`,
    );
  }
  // What nobody names is numbered as it comes.
  const written = columns.filter((column) => isMapped || column !== 'id' || sequence === undefined);
  const selected = written.map((column) => {
    if (column === 'id') return 'm_id.new';
    if (column in refs) return `m_${column}.new`;
    return values[column] ?? `t.${quoted(column)}`;
  });
  const own = isMapped ? [`join map_${table} m_id on m_id.old = t.id`] : [];
  await run(
    `insert into ${quoted(table)} (${written.map(quoted).join(', ')})
     select ${selected.join(', ')} from ${from(own)} order by 1`,
  );
}
