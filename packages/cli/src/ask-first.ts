import { CliError } from './errors.js';

interface Question {
  /** Somebody said that there is no need to ask. */
  readonly yes?: boolean | undefined;
  readonly message: string;
  /** What is said where nobody can answer. */
  readonly unasked: string;
  /** What is said where the answer was no. */
  readonly left: string;
}

/** Asks before something is done that cannot be undone. @throws CliError where the answer is no, or nobody can give one */
export async function askFirst({ yes, message, unasked, left }: Question): Promise<void> {
  if (yes) return;
  if (!process.stdin.isTTY) throw new CliError(unasked);
  const { confirm } = await import('@inquirer/prompts');
  if (!(await confirm({ message, default: false }))) throw new CliError(left);
}
