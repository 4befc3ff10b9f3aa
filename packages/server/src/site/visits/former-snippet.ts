import { dateWords, dayAt, type Snapshot } from '@pragmatica/core';
import type { Site } from '../../storage/rows.js';
import { snippetVersions } from '../../storage/snippet-versions.js';
import type { Store } from '../../storage/store.js';
import { say } from '../../texts/say.js';
import { VISITS_TEXTS } from '../../texts/visits.js';
import type { SnippetHistory } from '../../visits/find-trouble.js';

/** Versions before these are too old to be put back. */
const MOST = 60;

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
  const now = versions.at(-1);
  if (!now) return { formers: [] };
  const date = dateWords(dayAt(now.createdAt.getTime(), site.timeZone));
  const withForm = (snippet: Snapshot['snippets'][number]): Snapshot => ({
    ...served.snapshot,
    snippets: served.snapshot.snippets.map((one) => (one.key === key ? snippet : one)),
  });
  return {
    since: say(VISITS_TEXTS.troubleSince, { release: now.release, date }),
    formers: versions
      .slice(0, -1)
      .slice(-MOST)
      .flatMap(({ release, snippet }) =>
        snippet?.state === 'on' ? [{ release, snapshot: withForm(snippet) }] : [],
      ),
  };
}
