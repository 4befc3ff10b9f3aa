import { fork, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { signal, treeOf } from './processes.js';

interface Ready {
  readonly ready?: true;
  readonly address?: string;
  readonly firstSignIn?: { readonly password: string };
}

/** The product's programs, by what they are. */
const PROGRAMS = {
  'main.js': 'packages/server/dist/main.js',
  'worker-main.js': 'packages/server/dist/worker-main.js',
  gateway: 'packages/gateway/dist/main.js',
} as const;

/** A process of the product: `main.js` is the service, `worker-main.js` a worker. */
export interface RunningProcess {
  readonly pid: number;
  readonly address: string;
  /** One-time, of the first administrator; empty where there is none any more. */
  readonly password: string;
  close(): Promise<void>;
  /** Ends it, and what it has started, in the middle of whatever they do (SIGKILL). */
  kill(): Promise<void>;
}

/**
 * Starts one as `npm start` does, and waits until it is ready.
 *
 * @param root - the folder of the version that is meant
 */
export async function startProcess(
  file: keyof typeof PROGRAMS,
  environment: Readonly<Record<string, string>>,
  root = '.',
): Promise<RunningProcess> {
  const child = fork(join(root, PROGRAMS[file]), {
    env: { ...process.env, ...environment },
    // The tests' own way of loading TypeScript is none of the product's, and it takes seconds.
    execArgv: [],
    silent: true,
  });
  let said = '';
  child.stderr!.on('data', (text: Buffer) => (said += text.toString()));
  const ready = await new Promise<Ready>((resolve, reject) => {
    child.on('message', (message: Ready) => {
      if (message.ready) resolve(message);
    });
    child.on('exit', (code) => reject(new Error(`${file} ended with ${code}: ${said}`)));
  });
  return {
    pid: child.pid!,
    address: ready.address ?? '',
    password: ready.firstSignIn?.password ?? '',
    close: () => ended(child, () => child.kill()),
    kill: () =>
      ended(child, () => {
        for (const pid of treeOf(child.pid!)) signal(pid, 'SIGKILL');
      }),
  };
}

async function ended(child: ChildProcess, end: () => void): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const exit = new Promise((resolve) => child.once('exit', resolve));
  end();
  await exit;
}
