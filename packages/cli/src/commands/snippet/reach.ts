import { reachWords } from '@pragmatica/core';
import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { colour, print, printJson } from '../../output.js';
import { readLimits, withReach, type ReachOptions } from '../../reach-options.js';
import { tellWeek } from '../../week.js';
import { SNIPPET } from '../../texts/snippet.js';

interface Options extends SiteOptions, ReachOptions {
  readonly pages?: string[];
  readonly except?: string[];
  readonly allPages?: boolean;
  readonly week?: string;
}

export function reach(group: Command): void {
  withReach(withSite(group.command('reach <snippet>')))
    .description(SNIPPET.whichPageLoads)
    .option('--pages <pattern...>', SNIPPET.onlyThesePagesBooking)
    .option('--except <pattern...>', SNIPPET.notThesePages)
    .option('--all-pages', SNIPPET.everyPageAgain)
    .option('--week <day>', SNIPPET.showWeekDay)
    .addHelpText('after', SNIPPET.examplesPragmaticaSnippetReach)
    .action(async (key: string, options: Options) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const params = { site, snippet: key };
      const { data: old, etag } = await client.call('showSnippet', { params });
      let data = old;
      const limits = readLimits(options, data.limits);
      const pages = options.allPages
        ? { include: [], exclude: [] }
        : (options.pages ?? options.except)
          ? { include: options.pages ?? data.pages.include, exclude: options.except ?? data.pages.exclude }
          : undefined;
      const isChange = limits !== undefined || pages !== undefined;
      if (isChange) {
        const body = {
          ...(pages ? { pages } : {}),
          ...(limits ? { limits: limits as typeof data.limits } : {}),
        };
        data = (await client.call('editSnippet', { params, ifMatch: etag, body })).data;
      }
      const at = options.week === undefined ? {} : { at: options.week };
      const { data: week } = await client.call('showCalendar', { params, query: at });
      if (options.json) {
        printJson({ pages: data.pages, limits: data.limits, calendar: week });
        return;
      }
      const { data: whole } = await client.call('showSite', { params: { site } });
      const words = reachWords(
        { ...(data.limits as SiteLimits), pages: data.pages },
        {
          ...whole,
          consent: whole.consent ?? undefined,
        },
      );
      print(
        `${colour.bold(data.name)} ${isChange ? SNIPPET.nowRuns : 'runs'} ${words}.${isChange ? ' (draft)' : ''}`,
      );
      if (data.limits.hours) {
        print();
        tellWeek(week, options.week === undefined);
      }
    });
}

type SiteLimits = NonNullable<Parameters<typeof readLimits>[1]>;
