import type { PreviewResource } from '@pragmatica/contract';
import { clockTimeWords } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import type { Settings } from '../settings.js';
import { chooseHost } from '../site/choose-host.js';
import { findRelease } from '../site/sets.js';
import { findSite, withSiteLock } from '../site/site-lock.js';
import type { Acting } from '../site/use-case.js';
import { hostsOf } from '../storage/hosts.js';
import { audit } from '../storage/trail.js';
import { PREVIEW_TEXTS as T } from '../texts/preview.js';
import { say } from '../texts/say.js';
import { PASS_NAME, isBesideConsole, isOnlyHere, previewOrigin } from './address.js';
import { writePass } from './pass.js';

export interface PreviewWish {
  readonly environment: 'live' | 'staging';
  readonly host?: string | undefined;
  readonly path: string;
  readonly hours: number;
  readonly release?: number | undefined;
}

const HOUR_MS = 3_600_000;

/**
 * An address at which people see a host’s pages with the draft in them, or with a release. Whoever has it may look, until it ends.
 *
 * @throws ServiceError 404 for no such site, host or release, 409 where previews would stand beside the console
 */
export async function makePreview(
  { settings, box }: { readonly settings: Settings; readonly box: SecretBox },
  key: string,
  { environment, host: named, path, hours, release }: PreviewWish,
  { store, actor }: Acting,
): Promise<PreviewResource> {
  if (isBesideConsole(settings)) throw new ServiceError('preview-beside-console', {});
  const site = await findSite(store, key);
  const host = chooseHost(await hostsOf(store, site), key, environment, named);
  if (release !== undefined) await findRelease(store, site, release);
  const until = Date.now() + hours * HOUR_MS;
  const pass = writePass(box, { site: key, host: host.host, release: release ?? null, until });
  await withSiteLock(store, key, async (transaction, locked) => {
    const what = release === undefined ? T.theDraft : say(T.theRelease, { release: String(release) });
    const moment = clockTimeWords({ at: until, zone: site.timeZone }, 'en-GB');
    const params = { what, host: host.host, until: moment };
    audit(transaction, locked, actor, 'preview', () => say(T.made, params));
    await transaction.flush();
  });
  const address = new URL(path, previewOrigin(settings));
  address.searchParams.set(PASS_NAME, pass);
  return {
    address: address.href,
    host: host.host,
    until: new Date(until).toISOString(),
    isOnlyHere: isOnlyHere(settings),
  };
}
