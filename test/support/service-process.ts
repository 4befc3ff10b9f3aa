import { fork, type ChildProcess } from 'node:child_process';

interface Ready {
  readonly ready?: true;
  readonly address?: string;
}

/** A process of the product: `main.js` is the service, `worker-main.js` a worker. */
export interface RunningProcess {
  readonly address: string;
  close(): Promise<void>;
  /** Ends it in the middle of whatever it does (SIGKILL). */
  kill(): Promise<void>;
}

/** Starts one as `npm start` does, and waits until it is ready. */
export async function startProcess(
  file: 'main.js' | 'worker-main.js',
  environment: Readonly<Record<string, string>>,
): Promise<RunningProcess> {
  const child = fork(`packages/server/dist/${file}`, {
    env: { ...process.env, ...environment },
    silent: true,
  });
  let said = '';
  child.stderr!.on('data', (text: Buffer) => (said += text.toString()));
  const address = await new Promise<string>((resolve, reject) => {
    child.on('message', (message: Ready) => {
      if (message.ready) resolve(message.address ?? '');
    });
    child.on('exit', (code) => reject(new Error(`${file} ended with ${code}: ${said}`)));
  });
  return { address, close: () => ended(child), kill: () => ended(child, 'SIGKILL') };
}

async function ended(child: ChildProcess, signal?: NodeJS.Signals): Promise<void> {
  const exit = new Promise((resolve) => child.once('exit', resolve));
  child.kill(signal);
  await exit;
}
