import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { print, printJson } from '../output.js';
import { say } from '../texts/say.js';
import { WATCH } from '../texts/watch.js';

export function promote(program: Command): void {
  withSite(program.command('promote'))
    .description(WATCH.promoteDescription)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { data: staging } = await client.call('showEnvironment', {
        params: { site, environment: 'staging' },
      });
      if (staging.release === null) throw new CliError(WATCH.nothingOnStaging);
      const params = { site, environment: 'live' } as const;
      const { data: live, etag } = await client.call('showEnvironment', { params });
      const release = String(staging.release);
      if (live.release === staging.release) {
        if (options.json) printJson(live);
        else print(say(WATCH.isLiveAlready, { release }));
        return;
      }
      const { data } = await client.call('restoreRelease', {
        params,
        ifMatch: etag,
        body: { release: staging.release },
      });
      if (options.json) printJson(data);
      else if (live.release === null) print(say(WATCH.promoted, { release }));
      else print(say(WATCH.promotedAfter, { release, before: String(live.release) }));
    });
}
