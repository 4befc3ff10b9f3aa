import { spawn } from 'node:child_process';

export interface BoundProcess {
  close(): Promise<void>;
}

/** Ends a program when its own standard input ends, as it does when whoever started it is gone, however that came about. */
const BOUND = '"$0" "$@" </dev/null & program=$!; cat >/dev/null; kill "$program"; wait "$program"';

/** Starts a program that ends with us. */
export function startBound(
  program: string,
  parameters: readonly string[],
  environment: NodeJS.ProcessEnv = process.env,
): BoundProcess {
  const child = spawn('/bin/sh', ['-c', BOUND, program, ...parameters], {
    stdio: ['pipe', 'ignore', 'ignore'],
    env: environment,
  });
  const ended = new Promise<void>((resolve) => {
    child.once('exit', () => resolve());
    child.once('error', () => resolve());
  });
  return {
    async close() {
      child.stdin.end();
      await ended;
    },
  };
}
