import { parseItem, Token } from 'structured-headers';

/** What a page asks of all that it takes from other origins (HTML Standard 7.1.4, "Cross-origin embedder policies"). */
export type EmbedderPolicy = 'require-corp' | 'credentialless';

/** @param header - `Cross-Origin-Embedder-Policy`; what cannot be read, or is something else, asks nothing */
export function embedderPolicy(header: string): EmbedderPolicy | undefined {
  if (header.length > 1_000) return undefined;
  try {
    const [item] = parseItem(header);
    const word = item instanceof Token ? item.toString() : undefined;
    return word === 'require-corp' || word === 'credentialless' ? word : undefined;
  } catch {
    return undefined;
  }
}
