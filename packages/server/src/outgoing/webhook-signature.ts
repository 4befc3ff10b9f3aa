import { createHmac } from 'node:crypto';

const PREFIX = 'whsec_';

/**
 * The headers by which a program knows that a message is ours, is whole and is new: HMAC-SHA256 over id, time and body
 * (Standard Webhooks 1.0, "Signature scheme").
 *
 * @param secret - `whsec_` and bytes in base64
 * @param at - seconds since 1970
 */
export function signedHeaders(secret: string, id: string, at: number, body: string): Record<string, string> {
  const key = Buffer.from(secret.slice(PREFIX.length), 'base64');
  const signature = createHmac('sha256', key).update(`${id}.${at}.${body}`).digest('base64');
  return {
    'content-type': 'application/json',
    'webhook-id': id,
    'webhook-timestamp': String(at),
    'webhook-signature': `v1,${signature}`,
  };
}
