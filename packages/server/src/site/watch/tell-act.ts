import { actNoticeOf, isForPeople, momentWords, type Act } from '@pragmatica/core';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { tell, type Telling } from './notices.js';

/** The console's address, without a slash at its end. */
export type Home = string;

/** What an act is, for programs. */
const TYPES = {
  published: 'release.published',
  restored: 'release.restored',
  asked: 'approval.requested',
  decided: 'approval.decided',
} as const satisfies Record<Act['kind'], string>;

/**
 * Puts in line what others should hear of what somebody has done. Called inside the transaction that does it: what is taken back is not told.
 *
 * @param at - where the console shows it, below the site
 * @param more - what programs get besides
 */
export async function tellAct(
  store: Store,
  site: Site,
  act: Act,
  { home, at, more = {} }: { readonly home: Home; readonly at: string; readonly more?: object },
): Promise<void> {
  const address = `${home}/sites/${site.key}${at}`;
  const now = Date.now();
  const { kind, ...data } = act;
  const compose = (): Telling => ({
    ...actNoticeOf(act, { site: site.name, moment: momentWords(now, site.timeZone), address }),
    ...{ type: TYPES[kind], data: { ...data, ...more, address } },
  });
  await tell(store, site, compose, { isForPeople: isForPeople(act) });
}
