import { hostname } from 'node:os';
import { text } from 'node:stream/consumers';
import { ApiError, createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import type { Command } from 'commander';
import { configFile, keepLanguage, readConfig, writeConfig } from '../config.js';
import { normalize, withCommon, type CommonOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { note, print, printJson } from '../output.js';
import { SIGN_IN } from '../texts/sign-in.js';
import { SPOKEN, say } from '../texts/say.js';

interface Options extends CommonOptions {
  readonly login?: string;
  readonly stdin?: boolean;
}

export function signIn(program: Command): void {
  withCommon(program.command('sign-in'))
    .description(SIGN_IN.signOncePer)
    .option('--login <name>', SIGN_IN.whoYou)
    .option('--stdin', SIGN_IN.readPasswordFrom)
    .addHelpText('after', SIGN_IN.examplesPragmaticaSign)
    .action(async (options: Options) => {
      const server = normalize(options.server);
      if (!options.stdin && !process.stdin.isTTY) throw new CliError(SIGN_IN.thereNobodyAsk);
      // Loaded only where somebody is asked: it would slow every command's start.
      const { input, password: askPassword } = await import('@inquirer/prompts');
      const [fromInput, newFromInput, codeFromInput] = options.stdin
        ? (await text(process.stdin)).split('\n')
        : [];
      const login =
        options.login ?? (options.stdin ? 'admin' : await input({ message: SIGN_IN.name, default: 'admin' }));
      const password = fromInput ?? (await askPassword({ message: SIGN_IN.password }));
      const client = createClient({ server, locale: SPOKEN, fetch: localhostFetch });
      const send = async (newPassword?: string, code?: string) =>
        (
          await client.call('signIn', {
            body: {
              login,
              password,
              newPassword,
              code,
              as: 'token',
              tokenName: say(SIGN_IN.commandLineHostname, { hostname: hostname() }),
            },
          })
        ).data;
      let signedIn;
      try {
        signedIn = await send(newFromInput || undefined, codeFromInput || undefined);
      } catch (error) {
        if (isProblem(error, 'code-required') && !options.stdin)
          signedIn = await send(undefined, await input({ message: SIGN_IN.code }));
        else if (!isProblem(error, 'password-change-required')) throw error;
        else {
          if (options.stdin) throw new CliError(SIGN_IN.oneTimePassword, EXIT.notSignedIn);
          note(SIGN_IN.wasOneTime);
          signedIn = await send(await askNewPassword());
        }
      }
      const config = readConfig();
      writeConfig({ ...config, server, tokens: { ...config.tokens, [server]: signedIn.token! } });
      keepLanguage(signedIn.member.language);
      if (options.json) printJson({ server, login: signedIn.member.login });
      else
        print(
          say(SIGN_IN.signedServerLogin, { server, login: signedIn.member.login, configFile: configFile() }),
        );
    });
}

function isProblem(error: unknown, kind: string): boolean {
  return error instanceof ApiError && error.problem.type.endsWith(kind);
}

async function askNewPassword(): Promise<string> {
  const { password: askPassword } = await import('@inquirer/prompts');
  const chosen = await askPassword({ message: SIGN_IN.newPassword });
  const again = await askPassword({ message: SIGN_IN.sameAgain });
  if (chosen !== again) throw new CliError(SIGN_IN.twoPasswordsDiffer);
  return chosen;
}
