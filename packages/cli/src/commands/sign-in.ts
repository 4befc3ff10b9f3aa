import { hostname } from 'node:os';
import { text } from 'node:stream/consumers';
import { ApiError, createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import type { Command } from 'commander';
import { configFile, readConfig, writeConfig } from '../config.js';
import { normalize, withCommon, type CommonOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { note, print, printJson } from '../output.js';

interface Options extends CommonOptions {
  readonly login?: string;
  readonly stdin?: boolean;
}

export function signIn(program: Command): void {
  withCommon(program.command('sign-in'))
    .description('sign in, once per machine; asks for name and password')
    .option('--login <name>', 'who you are')
    .option(
      '--stdin',
      'read the password from standard input; a second line is the new password that replaces a one-time one',
    )
    .addHelpText(
      'after',
      '\nExamples:\n  pragmatica sign-in\n  printf "%s\\n" "$PASSWORD" | pragmatica sign-in --login admin --stdin',
    )
    .action(async (options: Options) => {
      const server = normalize(options.server);
      if (!options.stdin && !process.stdin.isTTY)
        throw new CliError('There is nobody to ask. Give the password on standard input with --stdin.');
      // Loaded only where somebody is asked: it would slow every command's start.
      const { input, password: askPassword } = await import('@inquirer/prompts');
      const [fromInput, newFromInput] = options.stdin ? (await text(process.stdin)).split('\n') : [];
      const login =
        options.login ?? (options.stdin ? 'admin' : await input({ message: 'Name', default: 'admin' }));
      const password = fromInput ?? (await askPassword({ message: 'Password' }));
      const client = createClient({ server, fetch: localhostFetch });
      const send = async (newPassword?: string) =>
        (
          await client.call('signIn', {
            body: { login, password, newPassword, as: 'token', tokenName: `command line on ${hostname()}` },
          })
        ).data;
      let signedIn;
      try {
        signedIn = await send(newFromInput || undefined);
      } catch (error) {
        const mustChange =
          error instanceof ApiError && error.problem.type.endsWith('password-change-required');
        if (!mustChange) throw error;
        if (options.stdin) {
          throw new CliError(
            'This is a one-time password. Put your own new one on a second line of standard input.',
            EXIT.notSignedIn,
          );
        }
        note('That was a one-time password. Choose your own (10 characters or more).');
        signedIn = await send(await askNewPassword());
      }
      const config = readConfig();
      writeConfig({ ...config, server, tokens: { ...config.tokens, [server]: signedIn.token! } });
      if (options.json) printJson({ server, login: signedIn.member.login });
      else print(`Signed in to ${server} as ${signedIn.member.login}. The token is kept in ${configFile()}.`);
    });
}

async function askNewPassword(): Promise<string> {
  const { password: askPassword } = await import('@inquirer/prompts');
  const chosen = await askPassword({ message: 'New password' });
  const again = await askPassword({ message: 'The same again' });
  if (chosen !== again)
    throw new CliError('The two passwords differ. Nothing was changed; run sign-in again.');
  return chosen;
}
