import { confirmingClient, type ApiClient } from '@pragmatica/contract';
import { CliError, EXIT } from './errors.js';
import { note } from './output.js';
import { ACCOUNT } from './texts/account.js';

/** A client that asks for the password where the service wants it again, and then goes on. */
export function confirming(client: ApiClient): ApiClient {
  return confirmingClient(client, async () => {
    if (process.stdin.isTTY) note(ACCOUNT.confirmWhy);
    await confirm(client, await askPassword());
    return true;
  });
}

/** Gives the password again. @returns until when it counts */
export async function confirm(client: ApiClient, password: string): Promise<string> {
  return (await client.call('confirmPassword', { body: { password } })).data.until;
}

/** @throws CliError where nobody is there to answer */
export async function askPassword(): Promise<string> {
  if (!process.stdin.isTTY) throw new CliError(ACCOUNT.confirmFirst, EXIT.notSignedIn);
  const { password } = await import('@inquirer/prompts');
  return password({ message: ACCOUNT.confirmPassword });
}
