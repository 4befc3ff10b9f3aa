import { randomInt } from 'node:crypto';
import { createServer } from 'node:net';
import { SetupError } from './setup-error.mjs';

/**
 * Checks that ports are free before anything is started.
 *
 * @param {Record<string, number>} ports - port by the name of its setting
 * @throws SetupError that names port and setting
 */
export async function assertPortsFree(host, ports) {
  for (const [setting, port] of Object.entries(ports)) {
    const problem = await tryPort(host, port);
    if (problem === undefined) continue;
    if (problem === 'EADDRINUSE') {
      throw new SetupError(
        `Port ${port} is in use by another program (or by a Pragmatica that is still running).\n` +
          `Stop that program, or choose another port:\n\n  ${setting}=${port + 100} npm start`,
      );
    }
    throw new SetupError(
      `Port ${port} on ${host} cannot be used (${problem}). Check ${setting} and PRAGMATICA_HOST.`,
    );
  }
}

/** Below those that a system gives to connections of its own accord: another program's call would take one of these meanwhile. */
const LOWEST = 10_000;
const HIGHEST = 29_999;
const TRIES = 100;

/** @returns {Promise<number>} a port of loopback that is free, for a program that is to start soon */
export async function freePort() {
  for (let tries = 0; tries < TRIES; tries += 1) {
    const port = randomInt(LOWEST, HIGHEST + 1);
    if ((await tryPort('127.0.0.1', port)) === undefined) return port;
  }
  throw new SetupError(`No port between ${LOWEST} and ${HIGHEST} is free.`);
}

function tryPort(host, port) {
  return new Promise((done) => {
    const server = createServer();
    server.once('error', (error) => done(error.code));
    server.listen(port, host, () => server.close(() => done(undefined)));
  });
}
