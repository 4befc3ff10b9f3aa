import { spawn } from 'node:child_process';
import { SetupError } from './setup-error.mjs';

const LAST_LINES = 25;

/**
 * Runs a program quietly. When it fails, its last lines are part of the error.
 *
 * @returns {Promise<string>} what it wrote to standard output
 */
export function command(program, args, { failure, env, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...env },
      ...options,
    });
    let out = '';
    let all = '';
    child.stdout.on('data', (data) => {
      out += data;
      all += data;
    });
    child.stderr.on('data', (data) => (all += data));
    child.on('error', (error) =>
      reject(new SetupError(`${failure ?? `${program} could not be started.`}\n${error.message}`)),
    );
    child.on('close', (code) => {
      if (code === 0) resolve(out);
      else
        reject(
          new SetupError(
            `${failure ?? `${program} failed.`}\n\n${all.trim().split('\n').slice(-LAST_LINES).join('\n')}`,
          ),
        );
    });
  });
}
