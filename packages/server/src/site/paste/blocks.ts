import type { BlocksResource, Environment } from '@pragmatica/contract';
import { pasteBlocks, type Box, type BoxKind, type PasteBlocks, type Snapshot } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import type { SiteClient } from '../../outgoing/site-client.js';
import { hostsOf } from '../../storage/hosts.js';
import {
  boxesOf,
  pastedBlocks,
  removePasted,
  saveBoxes,
  savePasted,
  type PastedBlock,
} from '../../storage/pasted-blocks.js';
import type { Host, Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { SITE_TEXTS } from '../../texts/site.js';
import { say } from '../../texts/say.js';
import { emptySnapshot, type Sets } from '../sets.js';
import { findSite, withSiteLock } from '../site-lock.js';
import { pagesOfHost } from '../site-pages.js';
import type { Acting } from '../use-case.js';

/** What it takes to say what has to be pasted. */
export interface PasteTools {
  readonly sets: Sets;
  readonly client: SiteClient;
}

/** Blocks of a set, and what they are made of. */
export interface MadeBlocks extends PasteBlocks {
  readonly boxes: readonly Box[];
  /** Null where it is none that is served. */
  readonly release: number | null;
  readonly host: Host | undefined;
  readonly pages: readonly string[];
}

/** @throws ServiceError 404 */
export async function listBoxes(store: Store, key: string): Promise<readonly Box[]> {
  return boxesOf(store, await findSite(store, key));
}

/** @throws ServiceError 404 */
export async function setBoxes(
  key: string,
  boxes: readonly Box[],
  { store, actor }: Acting,
): Promise<readonly Box[]> {
  return withSiteLock(store, key, async (transaction, site) => {
    await saveBoxes(transaction, site, boxes);
    audit(transaction, site, actor, 'site.edit', () => SITE_TEXTS.boxesChanged);
    await transaction.flush();
    return boxes;
  });
}

/** @throws ServiceError 404 */
export async function showBlocks(
  tools: PasteTools,
  store: Store,
  key: string,
  { environment, of }: { readonly environment: Environment; readonly of: 'served' | 'draft' },
): Promise<BlocksResource> {
  const site = await findSite(store, key);
  const made = await blocksOf(tools, store, site, environment, of);
  return toResource(made, await pastedBlocks(store, site));
}

/** Makes the blocks of what an environment serves, or of the draft. */
export async function blocksOf(
  { sets, client }: PasteTools,
  store: Store,
  site: Site,
  environment: Environment,
  of: 'served' | 'draft',
): Promise<MadeBlocks> {
  const boxes = await boxesOf(store, site);
  const hosts = await hostsOf(store, site);
  const host = hosts.find((one) => one.environment === environment);
  const { snapshot, release } = await setOf(sets, store, site, environment, of);
  // Without boxes nothing is made, so nobody's site has to be asked.
  const { paths } =
    boxes.length === 0 ? { paths: [] } : await pagesOfHost(client, store, site, host ?? hosts[0]);
  const options = { environment, boxes, release: release ?? 0, pages: paths, now: Date.now() };
  return { ...pasteBlocks(snapshot, options), boxes, release, host, pages: paths };
}

async function setOf(
  sets: Sets,
  store: Store,
  site: Site,
  environment: Environment,
  of: 'served' | 'draft',
): Promise<{ readonly snapshot: Snapshot; readonly release: number | null }> {
  if (of === 'draft') return { snapshot: (await sets.draft(store, site)).snapshot, release: null };
  const served = await sets.served(store, site, environment);
  return served
    ? { snapshot: served.snapshot, release: served.number }
    : { snapshot: emptySnapshot(site), release: null };
}

export interface BlockTick {
  readonly kind: BoxKind;
  readonly page: string | null;
  readonly digest: string | null;
  readonly environment: Environment;
}

/**
 * Says that a block is pasted now, or that a box holds nothing of ours.
 *
 * @throws ServiceError 404, 409 where the block is another one by now
 */
export async function tickBlock(
  tools: PasteTools,
  key: string,
  { kind, page, digest, environment }: BlockTick,
  { store, actor }: Acting,
): Promise<BlocksResource> {
  const site = await findSite(store, key);
  const made = await blocksOf(tools, store, site, environment, 'served');
  const block = made.blocks.find((one) => one.box.kind === kind && one.page === page);
  const name = made.boxes.find((box) => box.kind === kind)?.name ?? kind;
  if (digest !== null && block?.digest !== digest) throw new ServiceError('block-changed', { name });
  const pasted = await withSiteLock(store, key, async (transaction) => {
    const place = { box: kind, page: page ?? '' };
    if (digest === null) await removePasted(transaction, site, kind, place.page);
    else await savePasted(transaction, site, { ...place, digest, release: made.release ?? 0, by: actor });
    const text = digest === null ? 'boxEmptied' : 'blockPasted';
    audit(transaction, site, actor, 'paste', () => say(SITE_TEXTS[text], { name, page: page ?? '' }));
    await transaction.flush();
    return pastedBlocks(transaction, site);
  });
  return toResource(made, pasted);
}

function toResource(
  { blocks, boxes, left, release }: MadeBlocks,
  pasted: readonly PastedBlock[],
): BlocksResource {
  const placeOf = (kind: BoxKind, page: string | null): string => `${kind} ${page ?? ''}`;
  const byPlace = new Map(pasted.map((one) => [placeOf(one.box, one.page === '' ? null : one.page), one]));
  const wanted = new Set(blocks.map(({ box, page }) => placeOf(box.kind, page)));
  const nameOf = (kind: BoxKind): string => boxes.find((box) => box.kind === kind)?.name ?? kind;
  const said = ({ release: held, by, at }: PastedBlock) => ({ release: held, by, at: at.toISOString() });
  return {
    release,
    boxes: [...boxes],
    blocks: blocks.map(({ box, page, text, digest, parts, hoursUntil, tooLongBy }) => {
      const there = byPlace.get(placeOf(box.kind, page));
      return {
        ...{ kind: box.kind, page, name: box.name, text, digest },
        parts: parts.map(({ key, name }) => ({ key, name })),
        hoursUntil: hoursUntil === undefined ? null : new Date(hoursUntil).toISOString(),
        tooLongBy: tooLongBy ?? null,
        state: !there ? 'open' : there.digest === digest ? 'done' : 'outdated',
        pasted: there ? said(there) : null,
      };
    }),
    left: left.map(({ snippet, name, message }) => ({ snippet, name, message })),
    obsolete: pasted
      .filter((one) => !wanted.has(placeOf(one.box, one.page === '' ? null : one.page)))
      .map((one) => ({
        ...{ kind: one.box, page: one.page === '' ? null : one.page, name: nameOf(one.box) },
        pasted: said(one),
      })),
  };
}
