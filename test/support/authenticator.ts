import { createHmac } from 'node:crypto';

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';
const PERIOD_S = 30;

/** Base32 as bytes (RFC 4648, 6). */
function bytesOf(base32: string): Buffer {
  const bits = Array.from(base32, (letter) => LETTERS.indexOf(letter).toString(2).padStart(5, '0')).join('');
  const bytes = bits.match(/[01]{8}/g)!.map((byte) => Number.parseInt(byte, 2));
  return Buffer.from(bytes);
}

/** What an authenticator shows (RFC 6238, RFC 4226 5.3), worked out here once more. @param at - milliseconds */
export function codeAt(secret: string, at = Date.now()): string {
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(at / 1000 / PERIOD_S)));
  const mac = createHmac('sha1', bytesOf(secret)).update(counter).digest();
  const offset = mac.at(-1)! & 0xf;
  return String((mac.readUInt32BE(offset) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}

/** The code that comes after the one that is shown: taken already, for clocks that differ, and not used yet. */
export function nextCode(secret: string): string {
  return codeAt(secret, Date.now() + PERIOD_S * 1000);
}
