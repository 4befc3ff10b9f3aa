import { CONTENT_VIEW, RELEASE_VIEW } from '@pragmatica/contract';
import { snapshotDigest, thawSet, type FrozenSet, type Snapshot } from '@pragmatica/core';
import type pg from 'pg';

export interface ReleaseHead {
  readonly id: number;
  readonly number: number;
  readonly digest: string;
}

export interface ReadRelease extends ReleaseHead {
  /** Undefined where what is there is not what was published. */
  readonly snapshot: Snapshot | undefined;
}

interface Row extends ReleaseHead {
  readonly header: number;
  readonly snippets: readonly number[];
}

/** Reads releases whole: two queries, and what they have in common comes once. */
export async function readReleases(client: pg.Client, ids: readonly number[]): Promise<ReadRelease[]> {
  const { rows } = await client.query<Row>(
    `select id, number, digest, header, snippets from ${RELEASE_VIEW} where id = any($1)`,
    [ids],
  );
  const contents = new Set(rows.flatMap(({ header, snippets }) => [header, ...snippets]));
  const { rows: read } = await client.query<{ id: number; body: unknown }>(
    `select id, body from ${CONTENT_VIEW} where id = any($1)`,
    [[...contents]],
  );
  const bodies = new Map(read.map(({ id, body }) => [id, body]));
  return rows.map(({ header, snippets, ...head }) => ({
    ...head,
    snapshot: published(head.digest, {
      header: bodies.get(header) as FrozenSet['header'],
      snippets: snippets.map((id) => bodies.get(id) as FrozenSet['snippets'][number]),
    }),
  }));
}

/** The set, if it is what its digest says. */
function published(digest: string, frozen: FrozenSet): Snapshot | undefined {
  try {
    const snapshot = thawSet(frozen);
    return snapshotDigest(snapshot) === digest ? snapshot : undefined;
  } catch {
    // Something of it is missing.
    return undefined;
  }
}
