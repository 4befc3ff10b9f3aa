import { dateWords, dayAt, type Snapshot } from '@pragmatica/core';
import type { Site } from '../../storage/rows.js';
import { snippetVersions } from '../../storage/snippet-versions.js';
import type { Store } from '../../storage/store.js';
import { say } from '../../texts/say.js';
import { VISITS_TEXTS } from '../../texts/visits.js';
import type { SnippetHistory } from '../../visits/find-trouble.js';

/**
 * Since which release a snippet has been as it is, and how it was before that, where it was there and on.
 *
 * @param served - number of the release that is served, and what that holds
 */
export async function formerSnippet(
  store: Store,
  site: Site,
  served: { readonly number: number; readonly snapshot: Snapshot },
  key: string,
): Promise<SnippetHistory> {
  const versions = (await snippetVersions(store, site, key)).filter(
    ({ release }) => release <= served.number,
  );
  const [before, now] = versions.length < 2 ? [undefined, versions[0]] : versions.slice(-2);
  if (!now) return {};
  const date = dateWords(dayAt(now.createdAt.getTime(), site.timeZone));
  const since = say(VISITS_TEXTS.troubleSince, { release: now.release, date });
  const snippet = before?.snippet;
  if (!before || snippet?.state !== 'on') return { since };
  const snippets = served.snapshot.snippets.map((one) => (one.key === key ? snippet : one));
  return { since, former: { release: before.release, snapshot: { ...served.snapshot, snippets } } };
}
