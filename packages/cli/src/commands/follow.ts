import type { LiveEvent } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withCommon, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, note, print, when } from '../output.js';
import { COMMENTS } from '../texts/comments.js';
import { COMMON } from '../texts/common.js';
import { say } from '../texts/say.js';
import { Option } from 'commander';

/** What happens to a site, as it happens. One site at a time: it does not end by itself. */
export function follow(program: Command): void {
  withCommon(
    program
      .command('follow')
      .addOption(new Option('--site <site>', COMMON.siteSeveralCommas).env('PRAGMATICA_SITE')),
  )
    .description(COMMENTS.follow)
    .addHelpText('after', COMMENTS.followExamples)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const abort = new AbortController();
      process.once('SIGINT', () => abort.abort());
      if (!options.json) note(say(COMMENTS.following, { site }));
      try {
        for await (const event of client.stream('followSite', { params: { site }, query: {} }, abort.signal))
          show(event, options.json ?? false);
      } catch (error) {
        if (!abort.signal.aborted) throw error;
      }
      if (!abort.signal.aborted) throw new CliError(COMMENTS.over, EXIT.unreachable);
    });
}

function show(event: LiveEvent, isJson: boolean): void {
  if (isJson) print(JSON.stringify(event));
  else if (event.type !== 'still') print(`${colour.dim(when(new Date().toISOString()))}  ${words(event)}`);
}

function words(event: Exclude<LiveEvent, { type: 'still' }>): string {
  if (event.type === 'changed') return say(COMMENTS.changed, { what: event.what, by: event.by ?? 'none' });
  if (event.people.length === 0) return COMMENTS.nobody;
  const people = event.people.map(({ name, isEditing }) =>
    say(COMMENTS.person, { name, isEditing: String(isEditing) }),
  );
  return say(COMMENTS.there, { people });
}
