import type { Environment, VerificationEvent } from '@pragmatica/contract';
import type { DeliveryKey, LineForm } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { blocksOf } from '../site/paste/blocks.js';
import type { Sets } from '../site/sets.js';
import { chooseHost } from '../site/choose-host.js';
import { findSite } from '../site/site-lock.js';
import { pagesOfHost } from '../site/site-pages.js';
import { hostsOf } from '../storage/hosts.js';
import type { Host, Site } from '../storage/rows.js';
import type { PageJudge } from '../verify/judge.js';
import { judgeInPage } from '../verify/judge-in-page.js';
import { judgeLine } from '../verify/judge-line.js';
import { judgePasted } from '../verify/judge-pasted.js';
import { verifySite } from '../verify/verify-site.js';
import type { StartedJob, StartedTools } from './started.js';

export interface VerificationInput {
  readonly site: string;
  readonly environment: Environment;
  /** The environment's first one when left out. */
  readonly host?: string | undefined;
  /** The host's known pages when left out. */
  readonly paths?: readonly string[] | undefined;
}

/** Visits pages of a host and compares them with their plans. @throws ServiceError 404 */
export const verification: StartedJob<VerificationInput, VerificationEvent> = async function* (
  { site: key, environment, host: named, paths },
  tools,
) {
  const { store, sets, client } = tools;
  const site = await findSite(store, key);
  const host = chooseHost(await hostsOf(store, site), key, environment, named);
  const served = await sets.served(store, site, host.environment);
  if (!served) throw new ServiceError('nothing-published', { environment: host.environment });
  yield* verifySite({
    address: host.address ?? `http://${host.host}`,
    paths: paths ?? (await pagesOfHost(client, store, site, host)).paths,
    release: served.number,
    snapshot: served.snapshot,
    host: host.host,
    environment: host.environment,
    delivery: host.delivery,
    judge: await JUDGES[host.delivery as DeliveryKey](tools, site, host, served),
    client,
    access: await client.accessIfLetIn(store, site, host),
  });
};

type Served = NonNullable<Awaited<ReturnType<Sets['served']>>>;

type MakeJudge = (
  tools: StartedTools,
  site: Site,
  host: Host,
  served: Served,
) => PageJudge | Promise<PageJudge>;

const byLine =
  (form: LineForm): MakeJudge =>
  (tools, { key: site }, { environment }, { number: release, snapshot }) =>
    judgeLine(tools, { site, environment, form, release, snapshot });

/** What pages are judged by, by the way in which they get their parts. One more is one more line. */
const JUDGES: Record<DeliveryKey, MakeJudge> = {
  gateway: judgeInPage,
  folder: judgeInPage,
  fragments: judgeInPage,
  middleware: judgeInPage,
  line: byLine('order'),
  'async-line': byLine('async'),
  async paste(tools, site, { environment }, { number }) {
    const blocks = await blocksOf(tools, tools.store, site, environment, 'served');
    return judgePasted(tools, site.key, number, blocks);
  },
};
