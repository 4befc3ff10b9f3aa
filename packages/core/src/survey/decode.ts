import { legacyHookDecode } from '@exodus/bytes/encoding.js';
import { charsetOf, sniffEncoding } from '../insert/index.js';
import type { DeclaredCharset } from './types.js';

/** What browsers take where nothing is declared, in most locales (HTML Standard 13.2.3.2, the last step's table). */
const FALLBACK = 'windows-1252';

/** The text of a page, by the encoding that a browser would find (HTML Standard 13.2.3.2). */
export function decodePage(
  bytes: Uint8Array,
  contentType: string | undefined,
): { readonly text: string; readonly charset: DeclaredCharset } {
  const { name, from } = sniffEncoding(bytes, charsetOf(contentType));
  // The runtime's own decoder takes windows-1252 for Latin-1, so the Standard's is used.
  const text = legacyHookDecode(bytes, name ?? FALLBACK);
  return { text, charset: { name: name ?? FALLBACK, from } };
}
