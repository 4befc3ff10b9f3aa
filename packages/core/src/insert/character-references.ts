import { parseFragment, type DefaultTreeAdapterTypes } from 'parse5';

/**
 * Decodes character references the way they count in an attribute value (HTML Standard 13.2.5.72).
 * Only ids that contain an ampersand come here, so a whole parser is affordable.
 */
export function decodeCharacterReferences(raw: string): string {
  const fragment = parseFragment(`<i id="${raw.replaceAll('"', '&quot;')}">`);
  const element = fragment.childNodes[0] as DefaultTreeAdapterTypes.Element;
  return element.attrs[0]?.value ?? raw;
}
