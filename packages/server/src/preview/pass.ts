import { z } from 'zod';
import type { SecretBox } from '../outgoing/secret-box.js';

/** Who may look at what, and until when. */
export interface PreviewPass {
  readonly site: string;
  readonly host: string;
  /** Null for the draft, as it is when somebody looks. */
  readonly release: number | null;
  /** Milliseconds since 1970. */
  readonly until: number;
}

const PURPOSE = 'preview';

/** Short names: the whole of it is in an address. */
const written = z.strictObject({
  s: z.string(),
  h: z.string(),
  r: z.int().nullable(),
  u: z.int(),
});

/** A pass as it stands in an address and in a cookie: what it says, and a signature. */
export function writePass(box: SecretBox, { site, host, release, until }: PreviewPass): string {
  const plain: z.infer<typeof written> = { s: site, h: host, r: release, u: until };
  const text = Buffer.from(JSON.stringify(plain)).toString('base64url');
  return `${text}.${box.sign(text, PURPOSE)}`;
}

/** @returns undefined for one that is not ours, was changed, or is over */
export function readPass(box: SecretBox, pass: string, now: number): PreviewPass | undefined {
  const [text = '', signature = ''] = pass.split('.');
  if (!box.isSigned(text, PURPOSE, signature)) return undefined;
  const { s, h, r, u } = written.parse(JSON.parse(Buffer.from(text, 'base64url').toString()));
  return u > now ? { site: s, host: h, release: r, until: u } : undefined;
}
