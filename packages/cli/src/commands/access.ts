import { text } from 'node:stream/consumers';
import type { HostSecretInput } from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { print, printJson, table, when } from '../output.js';
import { SITES } from '../texts/sites.js';
import { say } from '../texts/say.js';

interface AccessOptions extends SiteOptions {
  readonly basic?: string;
  readonly header?: string;
  readonly cookie?: string;
  readonly form?: string | true;
  readonly page: string;
  readonly forget?: boolean;
}

const KINDS = ['basic', 'header', 'cookie', 'form'] as const;

/** How surveys and verification get into hosts that are not public. What opens one is asked for, never an argument. */
export function access(group: Command): void {
  withSite(group.command('access [host]'))
    .description(SITES.accessOf)
    .addOption(
      new Option('--basic <user>', SITES.accessBasic).conflicts(['header', 'cookie', 'form', 'forget']),
    )
    .addOption(new Option('--header <name>', SITES.accessHeader).conflicts(['cookie', 'form', 'forget']))
    .addOption(new Option('--cookie <name>', SITES.accessCookie).conflicts(['form', 'forget']))
    .addOption(new Option('--form [user]', SITES.accessForm).conflicts('forget'))
    .option('--page <path>', SITES.accessPage, '/')
    .option('--forget', SITES.accessForget)
    .addHelpText('after', SITES.accessExamples)
    .action(async (host: string | undefined, options: AccessOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      if (host === undefined) {
        const { data } = await client.call('listAccesses', { params: { site } });
        if (options.json) printJson(data.items);
        else if (data.items.length === 0) print(SITES.accessNone);
        else
          print(
            table(
              ['HOST', 'KIND', 'SINCE', 'BY'],
              data.items.map((one) => [one.host, one.kind, when(one.at), one.by]),
            ),
          );
        return;
      }
      const params = { site, host };
      if (options.forget) {
        await client.call('forgetAccess', { params });
        print(say(SITES.accessForgotten, { host }));
        return;
      }
      const kind = KINDS.find((one) => options[one] !== undefined);
      if (!kind) throw new CliError(SITES.accessWhich);
      const given = options[kind];
      const name = given === true ? '' : given;
      const value = await readSecret();
      const body = {
        kind,
        name,
        value,
        ...(kind === 'form' ? { page: options.page } : {}),
      } as HostSecretInput;
      await client.call('giveAccess', { params, body });
      print(say(SITES.accessKept, { host }));
    });
}

/** From standard input, or asked for where somebody sits. */
async function readSecret(): Promise<string> {
  if (!process.stdin.isTTY) return (await text(process.stdin)).replace(/\r?\n$/, '');
  const { password } = await import('@inquirer/prompts');
  return password({ message: SITES.accessSecret });
}
