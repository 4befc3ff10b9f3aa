import { BackupError } from '@pragmatica/backup';
import { ApiError, UnreachableError } from '@pragmatica/contract';
import { COMMON } from './texts/common.js';
import { say } from './texts/say.js';

/** Documented in the README and in `pragmatica --help`. */
export const EXIT = {
  done: 0,
  found: 1,
  usage: 2,
  notSignedIn: 3,
  notFound: 4,
  conflict: 5,
  unreachable: 6,
  failed: 7,
} as const;

export type ExitCode = (typeof EXIT)[keyof typeof EXIT];

/** Ends the command with a line that says what to do and a status. */
export class CliError extends Error {
  readonly exitCode: ExitCode;

  constructor(message: string, exitCode: ExitCode = EXIT.usage) {
    super(message);
    this.name = 'CliError';
    this.exitCode = exitCode;
  }
}

/** What an error means on the command line: one line and a status. */
export function describeError(error: unknown): { line: string; exitCode: ExitCode } {
  if (error instanceof CliError) return { line: error.message, exitCode: error.exitCode };
  if (error instanceof BackupError) return { line: error.message, exitCode: EXIT.usage };
  if (error instanceof UnreachableError) return { line: error.message, exitCode: EXIT.unreachable };
  if (error instanceof ApiError) return { line: apiLine(error), exitCode: statusToExit(error.status) };
  // Ctrl-C at a question, or while waiting for the service.
  if (error instanceof Error && (error.name === 'ExitPromptError' || error.name === 'AbortError')) {
    return { line: COMMON.cancelledNothingWas, exitCode: EXIT.failed };
  }
  const text = error instanceof Error ? error.message : String(error);
  return { line: say(COMMON.shouldNotHave, { text }), exitCode: EXIT.failed };
}

function apiLine(error: ApiError): string {
  const fields = error.problem.errors ?? [];
  if (error.problem.type.endsWith('invalid-input') && fields.length > 0) {
    return fields.map(({ pointer, detail }) => `${pointer.slice(1) || 'input'}: ${detail}`).join(' ');
  }
  if (error.status === 401 && error.problem.type.endsWith('not-signed-in')) return COMMON.youNotSigned;
  return error.message;
}

function statusToExit(status: number): ExitCode {
  if (status === 401 || status === 403) return EXIT.notSignedIn;
  if (status === 404) return EXIT.notFound;
  if (status === 409 || status === 412) return EXIT.conflict;
  if (status === 400 || status === 422) return EXIT.usage;
  return EXIT.failed;
}
