import { TRAIT_WORDS } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, printJson, printProse, table } from '../output.js';
import { say } from '../texts/say.js';
import { SURVEY } from '../texts/survey.js';

export function page(program: Command): void {
  withSite(program.command('page <path>'))
    .description(SURVEY.onePage)
    .option('--survey <number>', SURVEY.ofSurvey)
    .action(async (path: string, options: SiteOptions & { survey?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const survey = options.survey === undefined ? ('latest' as const) : Number(options.survey);
      const { data } = await client.call('showSurveyPage', { params: { site, survey }, query: { path } });
      if (options.json) {
        printJson(data);
        return;
      }
      const status = String(data.status ?? data.outcome ?? data.state);
      printProse(colour.bold(say(SURVEY.pageHead, { path: data.path, status, title: data.title })));
      if (data.outcome === 'read')
        printProse(
          say(SURVEY.pageFacts, {
            type: data.type ?? 'other',
            language: data.language || SURVEY.noLanguage,
            charset: data.charset,
            from: say(SURVEY.fromWhere, { from: data.charsetFrom }),
            bytes: data.bytes ?? 0,
          }),
        );
      if (data.canonical !== null) printProse(say(SURVEY.pageCanonical, { canonical: data.canonical }));
      if (data.leadsTo !== null) printProse(say(SURVEY.pageLeads, { leadsTo: data.leadsTo }));
      for (const { value, from, isReportOnly } of data.policies)
        printProse(say(SURVEY.pagePolicy, { from, value, reportOnly: String(isReportOnly) }));
      if (data.permissionsPolicy !== null)
        printProse(say(SURVEY.pagePermissions, { value: data.permissionsPolicy }));
      if (data.embedderPolicy !== null) printProse(say(SURVEY.pageEmbedder, { value: data.embedderPolicy }));
      for (const trait of data.traits) printProse(colour.yellow(say(SURVEY.unusualHere, TRAIT_WORDS[trait])));
      if (data.missing.length > 0)
        printProse(colour.red(say(SURVEY.pageMissing, { parts: data.missing.join(', ') })));
      if (data.items.length === 0) {
        printProse(SURVEY.nothingInPage);
        return;
      }
      printProse('');
      printProse(
        table(
          [SURVEY.place, 'KIND', SURVEY.standing, 'SNIPPET', 'NAME'],
          data.items.map((item) => [
            item.place,
            item.state === 'active' ? item.kind : `${item.kind} (${item.state})`,
            item.standing,
            item.part ?? item.snippet ?? '',
            item.sighting === null ? item.name : `${item.name} (${item.sighting})`,
          ]),
        ),
      );
    });
}
