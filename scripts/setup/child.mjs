import { spawn } from 'node:child_process';
import { closeSync, readFileSync } from 'node:fs';
import { openLog } from './logs.mjs';
import { SetupError } from './setup-error.mjs';

/** Long: on a machine that is busy with other things a slow start is better than none. */
const READY_TIMEOUT_MS = 180_000;
const STOP_TIMEOUT_MS = 8_000;
/** A program that says nothing for so long hangs, and is ended so that another one can take its place. */
const SILENCE_MS = 30_000;

/**
 * Starts one of our own programs and waits until it says that it is ready. The channel to it ends with us, whatever
 * happens to us, and the program then stops by itself.
 *
 * @param {{ title: string, file: string, log: string, env: Record<string, string> }} options
 * @returns {Promise<{ ready: any, pid: number, stop: () => Promise<void>, onExit: (listener: () => void) => void }>}
 */
export async function startChild({ title, file, log, env }) {
  const output = openLog(log);
  const child = spawn(process.execPath, ['--enable-source-maps', file], {
    stdio: ['ignore', output, output, 'ipc'],
    env: { ...process.env, ...env },
    detached: true,
  });
  closeSync(output);
  let hasExited = false;
  const exited = new Promise((done) => child.once('exit', done)).then(() => (hasExited = true));
  const ready = await Promise.race([
    new Promise((done) => child.once('message', done)),
    exited.then(() => undefined),
    new Promise((done) => setTimeout(done, READY_TIMEOUT_MS, undefined).unref()),
  ]);
  if (ready === undefined) {
    child.kill('SIGKILL');
    const lines = readFileSync(log, 'utf8').trim().split('\n').slice(-6).join('\n');
    throw new SetupError(`${title} did not start. The end of ${log}:\n\n${lines}`);
  }
  if (ready.beats) endWhenSilent(child);
  return {
    ready,
    pid: child.pid,
    onExit: (listener) => void exited.then(listener),
    async stop() {
      if (hasExited) return;
      child.kill('SIGTERM');
      const timer = setTimeout(() => child.kill('SIGKILL'), STOP_TIMEOUT_MS);
      await exited;
      clearTimeout(timer);
    },
  };
}

/** The program says now and then that it is alive; one that hangs cannot. */
function endWhenSilent(child) {
  let timer;
  const wait = () => {
    clearTimeout(timer);
    timer = setTimeout(() => child.kill('SIGKILL'), SILENCE_MS).unref();
  };
  wait();
  child.on('message', wait);
  child.once('exit', () => clearTimeout(timer));
}
