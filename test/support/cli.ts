import { execFile } from 'node:child_process';
import { fileURLToPath } from 'node:url';

export const BINARY = fileURLToPath(new URL('../../packages/cli/bin/pragmatica.js', import.meta.url));

export interface CliResult {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

export type RunCli = (
  args: readonly string[],
  more?: { input?: string; env?: Record<string, string> },
) => Promise<CliResult>;

/** Runs the command line in a folder of its own, in which it also keeps its sign-in. */
export function cliRunner(server: () => string, folder: string): RunCli {
  return (args, { input = '', env = {} } = {}) =>
    new Promise((resolve) => {
      const environment = {
        PATH: process.env['PATH'],
        HOME: folder,
        XDG_CONFIG_HOME: folder,
        PRAGMATICA_SERVER: server(),
        ...env,
      };
      const child = execFile(
        process.execPath,
        [BINARY, ...args],
        { env: environment, cwd: folder },
        (error, out, err) => resolve({ code: error ? Number(error.code ?? 1) : 0, out, err }),
      );
      child.stdin!.end(input);
    });
}
