import type { DefaultTreeAdapterTypes as Tree } from 'parse5';

/** The value of an attribute; undefined where it is not there. */
export function attribute(element: Tree.Element, name: string): string | undefined {
  return element.attrs.find((one) => one.name === name)?.value;
}

/** JavaScript MIME types and modules (HTML Standard 4.12.1, "prepare the script element"). */
export function isScriptType(type: string | undefined): boolean {
  return (
    type === undefined ||
    /^\s*(?:$|module\s*$|(?:text|application)\/(?:x-)?(?:java|ecma|j|live)script(?:1\.[0-5])?\s*$)/i.test(
      type,
    )
  );
}

/** Data that is read as JSON: by its media type, or as import maps and speculation rules are. */
export function isJsonType(type: string | undefined): boolean {
  return type !== undefined && /(?:json|^\s*(?:importmap|speculationrules))\s*$/i.test(type);
}
