import { Secret, TOTP } from 'otpauth';

/** As every authenticator takes it for granted: SHA-1, six digits, thirty seconds (RFC 6238, 4 and 5.2). */
const KIND = { algorithm: 'SHA1', digits: 6, period: 30 } as const;

/** RFC 4226, 4 R6: 160 bits. */
const SECRET_BYTES = 20;

/** One step to either side, for clocks that differ and people who type slowly (RFC 6238, 5.2). */
const WINDOW = 1;

/** @returns Base32 */
export function newTotpSecret(): string {
  return new Secret({ size: SECRET_BYTES }).base32;
}

/** What an authenticator reads off a QR code. */
export function totpAddress(secret: string, login: string): string {
  return new TOTP({
    ...KIND,
    issuer: 'Pragmatica',
    label: login,
    secret: Secret.fromBase32(secret),
  }).toString();
}

/** The time step that a code is of, if it is one of about now. @param now - milliseconds */
export function stepOf(secret: string, code: string, now: number): number | undefined {
  if (!/^\d{6}$/.test(code)) return undefined;
  const totp = new TOTP({ ...KIND, secret: Secret.fromBase32(secret) });
  const delta = totp.validate({ token: code, timestamp: now, window: WINDOW });
  return delta === null ? undefined : Math.floor(now / 1000 / KIND.period) + delta;
}
