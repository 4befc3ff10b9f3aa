import { openBackup, readBackup, type BackupItem, type BackupManifest } from '@pragmatica/backup';
import type { BringSiteEvent, RestoreEvent } from '@pragmatica/contract';
import { formatMessage } from '@pragmatica/core';
import { NoSuchSite, SiteExists } from '../../storage/copies/bring-site.js';
import type { CopyEntry } from '../../storage/copies/copy-store.js';
import { NotEmpty } from '../../storage/copies/put-back.js';
import { siteByKey } from '../../storage/sites.js';
import type { Store } from '../../storage/store.js';
import { COPY_TEXTS } from '../../texts/copies.js';
import { copyProblem } from './problems.js';
import { resealWith } from './reseal.js';
import type { Copying } from './take-backup.js';
import { withProgress } from './with-progress.js';

type Asking = { readonly store: Store; readonly actor: string };

/** Makes an empty installation what a backup says: all of it, or nothing. @throws ServiceError 409, 422 */
export async function* restoreBackup(
  { copies, box }: Copying,
  bytes: AsyncIterable<Uint8Array>,
  { isQuiet }: { readonly isQuiet: boolean },
  { actor }: Pick<Asking, 'actor'>,
): AsyncGenerator<RestoreEvent> {
  try {
    if (await copies.isInUse()) throw new NotEmpty();
    const restored = yield* withProgress<RestoreEvent, Awaited<ReturnType<typeof copies.restore>>>(
      async (report) =>
        copies.restore(
          announced(bytes, (manifest) => report(begun(manifest), true)),
          {
            isQuiet,
            untold: COPY_TEXTS.untold,
            reseal: (key) => resealWith(box, key),
            entry: entryOf(actor, COPY_TEXTS.restored),
            onProgress: (progress) => report({ type: 'loading', ...progress }),
          },
        ),
    );
    const { manifest, lost, isTrailWhole } = restored;
    yield {
      type: 'done',
      ...ofBackup(manifest),
      sites: manifest.sites.length,
      members: rowsOf(manifest, 'member'),
      rows: allRows(manifest),
      lost: [...lost],
      isTrailWhole,
    };
  } catch (error) {
    throw copyProblem(error);
  }
}

/** Brings one site of a backup back, as a site of its own. @throws ServiceError 409, 422 */
export async function* bringSiteBack(
  { copies, box }: Copying,
  bytes: AsyncIterable<Uint8Array>,
  { site, as }: { readonly site: string; readonly as: string },
  { store, actor }: Asking,
): AsyncGenerator<BringSiteEvent> {
  try {
    if (await siteByKey(store, as)) throw new SiteExists(as);
    const brought = yield* withProgress<BringSiteEvent, Awaited<ReturnType<typeof copies.bring>>>(
      async (report) =>
        copies.bring(
          announced(bytes, (manifest) => {
            const known = manifest.sites.map(({ key }) => key);
            if (!known.includes(site)) throw new NoSuchSite(site, known);
            report(begun(manifest), true);
          }),
          {
            site,
            as,
            reseal: (key, oldId) => resealWith(box, key, oldId),
            entry: entryOf(actor, COPY_TEXTS.broughtBack),
            onProgress: (progress) => report({ type: 'loading', ...progress }),
          },
        ),
    );
    const { manifest, name, snippets, releases, hosts, takenHosts, lost } = brought;
    yield {
      type: 'done',
      ...ofBackup(manifest),
      ...{ site: as, name, snippets, releases },
      hosts: [...hosts],
      takenHosts: [...takenHosts],
      lost: [...lost],
    };
  } catch (error) {
    throw copyProblem(error);
  }
}

function entryOf(by: string, text: string): CopyEntry {
  return {
    by,
    action: 'restore',
    message: ({ madeAt, id }) => formatMessage(text, { at: madeAt.slice(0, 16).replace('T', ' '), id }),
  };
}

/** What is in a backup, told when it is known. */
async function* announced(
  bytes: AsyncIterable<Uint8Array>,
  onManifest: (manifest: BackupManifest) => void,
): AsyncGenerator<BackupItem> {
  for await (const item of readBackup(await openBackup(bytes, []))) {
    if (item.type === 'manifest') onManifest(item.manifest);
    yield item;
  }
}

function begun(manifest: BackupManifest) {
  return { type: 'begun', ...ofBackup(manifest), rows: allRows(manifest) } as const;
}

function ofBackup({ madeAt, version }: BackupManifest) {
  return { madeAt, version };
}

function rowsOf({ tables }: BackupManifest, name: string): number {
  return tables.find((table) => table.name === name)?.rows ?? 0;
}

function allRows({ tables }: BackupManifest): number {
  return tables.reduce((sum, { rows }) => sum + rows, 0);
}
