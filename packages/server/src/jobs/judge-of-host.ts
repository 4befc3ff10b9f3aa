import type { DeliveryKey, LineForm, Snapshot } from '@pragmatica/core';
import { blocksOf } from '../site/paste/blocks.js';
import type { Host, Site } from '../storage/rows.js';
import type { PageJudge } from '../verify/judge.js';
import { judgeInPage } from '../verify/judge-in-page.js';
import { judgeLine } from '../verify/judge-line.js';
import { judgePasted } from '../verify/judge-pasted.js';
import type { StartedTools } from './started.js';

/** A release as it is served. */
export interface ServedRelease {
  readonly number: number;
  readonly snapshot: Snapshot;
}

type MakeJudge = (
  tools: StartedTools,
  site: Site,
  host: Host,
  served: ServedRelease,
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

/** Whatever says of a host's pages whether they have what they should. */
export async function judgeOfHost(
  tools: StartedTools,
  site: Site,
  host: Host,
  served: ServedRelease,
): Promise<PageJudge> {
  return JUDGES[host.delivery as DeliveryKey](tools, site, host, served);
}
