import { SetupError } from './setup-error.mjs';

const NEEDED = [20, 19];

/** @throws SetupError when Node.js is older than what the packages need */
export function assertNodeVersion(version = process.versions.node) {
  const [major, minor] = version.split('.').map(Number);
  if (major > NEEDED[0] || (major === NEEDED[0] && minor >= NEEDED[1])) return;
  throw new SetupError(
    `Pragmatica needs Node.js ${NEEDED.join('.')} or newer; this is ${version}.\n` +
      'Install a newer Node.js 20 (or a later even version), then run the command again.',
  );
}
