import {
  normalizeLimits,
  type Limits,
  type RecipeLink,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
  type SnippetState,
} from '@pragmatica/core';
import type { Site } from './rows.js';
import { emOf } from './em.js';
import type { Store } from './store.js';
import type { Run } from './run.js';

/** A snippet as it is stored. */
export interface StoredSnippet {
  readonly snippet: {
    readonly key: string;
    readonly name: string;
    readonly purpose: string;
    readonly provider: string;
    readonly note: string;
    readonly state: SnippetState;
    readonly stateAt?: Date | null;
    readonly stateBy?: string | null;
    readonly include: string[];
    readonly exclude: string[];
    readonly limits: Limits;
    readonly needs: string[];
    readonly recipe?: RecipeLink | null;
    readonly updatedBy: string;
    readonly updatedAt: Date;
    readonly version: number;
  };
  readonly parts: readonly Required<SnapshotPart>[];
}

/** A site's draft at one moment. */
export interface Draft {
  /** Another one after every change of the site; see `siteRevision`. */
  readonly revision: number;
  readonly snippets: readonly StoredSnippet[];
  /** The same as core works on it. */
  readonly snapshot: Snapshot;
}

type SiteRow = Pick<Site, 'key' | 'name' | 'timeZone' | 'pageGroups' | 'consent' | 'fields'>;
type SnippetJson = Omit<StoredSnippet['snippet'], 'stateAt' | 'updatedAt'> & {
  readonly stateAt: string | null;
  readonly updatedAt: string;
  readonly parts: StoredSnippet['parts'];
};
interface Row extends SiteRow {
  readonly revision: number | null;
  readonly snippets: readonly SnippetJson[];
}

const SNIPPET = `json_build_object(
           'key', n.key, 'name', n.name, 'purpose', n.purpose, 'provider', n.provider, 'note', n.note,
           'state', n.state, 'stateAt', n.state_at, 'stateBy', n.state_by, 'include', n.include, 'exclude', n.exclude,
           'limits', n.limits, 'needs', n.needs, 'recipe', n.recipe, 'updatedBy', n.updated_by,
           'updatedAt', n.updated_at, 'version', n.version,
           'parts', (select coalesce(json_agg(json_build_object('placement', p.placement, 'rank', p.rank,
               'code', p.code, 'statement', p.statement, 'per', p.per) order by p.position), '[]')
             from part p where p.snippet_id = n.id))`;

/** Reads a draft, its snippets in the order in which they were added. One statement: all of it is of the same moment. */
export async function readDraft(store: Store, site: number): Promise<Draft> {
  const em = emOf(store);
  const [row] = await em.execute<Row[]>(
    `select m.revision, s.key, s.name, s.time_zone as "timeZone", s.page_groups as "pageGroups", s.consent, s.fields,
       (select coalesce(json_agg(${SNIPPET} order by n.id), '[]')
         from snippet n where n.site_id = s.id) as snippets
     from site s left join site_summary m on m.site_id = s.id where s.id = ?`,
    [site],
  );
  const { revision, snippets: read, ...home } = row!;
  const snippets = read.map(toStored);
  return { revision: revision ?? 0, snippets, snapshot: toSnapshot(home, snippets) };
}

/** What a draft says of its site, as it is in a transaction right now. */
export async function readSite(run: Run, site: number): Promise<SiteRow> {
  const [row] = await run<SiteRow>(
    `select key, name, time_zone as "timeZone", page_groups as "pageGroups", consent, fields from site where id = ?`,
    [site],
  );
  return row!;
}

/** Some snippets of drafts as they are in a transaction right now, by id or by the keys that they have at a site. */
export async function readSnippets(
  run: Run,
  which: { readonly ids: readonly number[] } | { readonly site: number; readonly keys: readonly string[] },
): Promise<SnapshotSnippet[]> {
  const [where, params] =
    'ids' in which
      ? ['n.id = any(?::int[])', [`{${which.ids.join()}}`]]
      : [
          'n.site_id = ? and n.key in (select jsonb_array_elements_text(?::jsonb))',
          [which.site, JSON.stringify(which.keys)],
        ];
  const rows = await run<{ snippet: SnippetJson }>(
    `select ${SNIPPET} as snippet from snippet n where ${where} order by n.id`,
    params,
  );
  return rows.map(({ snippet }) => toSnapshotSnippet(toStored(snippet)));
}

function toStored({ parts, stateAt, updatedAt, ...snippet }: SnippetJson): StoredSnippet {
  return {
    snippet: {
      ...snippet,
      stateAt: stateAt === null ? null : new Date(stateAt),
      updatedAt: new Date(updatedAt),
    },
    parts,
  };
}

/** Stored snippets as the plain data that core works on. */
export function toSnapshot(site: SiteRow, draft: readonly StoredSnippet[]): Snapshot {
  return {
    format: 'pragmatica-set/1',
    site: snapshotSite(site),
    snippets: draft.map(toSnapshotSnippet),
  };
}

/** What a snapshot says of its site. What is not defined is left out, so that older digests stay as they were. */
export function snapshotSite({
  key,
  name,
  timeZone,
  pageGroups,
  consent,
  fields,
}: SiteRow): Snapshot['site'] {
  return {
    key,
    name,
    timeZone,
    ...(pageGroups.length > 0 ? { pageGroups } : {}),
    ...(consent ? { consent } : {}),
    ...(fields.length > 0 ? { fields } : {}),
  };
}

function toSnapshotSnippet({ snippet, parts }: StoredSnippet): SnapshotSnippet {
  const { key, name, purpose, provider, note, state, include, exclude, needs } = snippet;
  const { stateAt, stateBy } = snippet;
  const limits = normalizeLimits(snippet.limits);
  return {
    key,
    name,
    purpose,
    provider,
    note,
    state,
    pages: { include, exclude },
    ...(limits ? { limits } : {}),
    ...(state !== 'on' && stateAt && stateBy != null
      ? { stateSince: { at: stateAt.toISOString(), by: stateBy } }
      : {}),
    // Left out where there is nothing, so that a release without them has the digest that it always had.
    ...(needs.length > 0 ? { needs } : {}),
    ...(snippet.recipe ? { recipe: snippet.recipe } : {}),
    parts: parts.map(({ placement, rank, code, statement, per }) => ({
      placement,
      rank,
      code,
      ...(statement === '' ? {} : { statement }),
      ...(per === 'view' ? { per } : {}),
    })),
  };
}
