import {
  chmodSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  openSync,
  renameSync,
  statSync,
  truncateSync,
} from 'node:fs';
import { dirname } from 'node:path';

const LARGEST = 16 * 1024 * 1024;
const KEPT = 5;
const CHECKED_EVERY_MS = 60_000;

/** @type {Set<string>} */
const open = new Set();

/**
 * Opens a log that only its owner may read, to be written at its end.
 *
 * @param {string} file
 * @returns {number} a file descriptor
 */
export function openLog(file) {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  rotate(file);
  const descriptor = openSync(file, 'a', 0o600);
  // One that an earlier version made may be open to others.
  chmodSync(file, 0o600);
  if (open.size === 0) setInterval(() => open.forEach((one) => rotate(one)), CHECKED_EVERY_MS).unref();
  open.add(file);
  return descriptor;
}

/**
 * Sets a log aside once it is large: `service.log.1` is the newest of five. Whoever writes keeps its descriptor, so the
 * file is copied and emptied, not moved.
 *
 * @param {string} file
 */
export function rotate(file, largest = LARGEST) {
  if (!existsSync(file) || statSync(file).size < largest) return;
  for (let i = KEPT - 1; i >= 1; i--)
    if (existsSync(`${file}.${i}`)) renameSync(`${file}.${i}`, `${file}.${i + 1}`);
  copyFileSync(file, `${file}.1`);
  chmodSync(`${file}.1`, 0o600);
  truncateSync(file);
}
