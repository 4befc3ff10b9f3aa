import type { FieldPlace, FieldType } from './types.js';

/** Nothing that any of HTML, CSS or an attribute without quotes takes for a sign of its own. */
const PLAIN = /^[\w.#-]+$/;

/**
 * A value as it is written at a place, so that it can never be anything but a value there.
 *
 * @returns undefined where the value cannot safely stand there
 */
export function writtenValue(value: string, type: FieldType, place: FieldPlace): string | undefined {
  switch (place.kind) {
    case 'text':
    case 'attribute':
      return forMarkup(value);
    case 'bare':
      return PLAIN.test(value) ? value : undefined;
    case 'url-part':
      return within(place.within, encodeURIComponent(value).replace(/'/g, '%27'));
    case 'url-start':
      return /^https?:\/\//i.test(value) && URL.canParse(value)
        ? within(place.within, new URL(value).href.replace(/'/g, '%27'))
        : undefined;
    case 'script-string':
      return inAttribute(forScriptString(value), place.isAttribute);
    case 'script-value':
      return inAttribute(isLiteral(type) ? value : `"${forScriptString(value)}"`, place.isAttribute);
    case 'json-string':
      return forJson(value);
    case 'json-value':
      return isLiteral(type) ? value : `"${forJson(value)}"`;
    case 'refused':
      return undefined;
  }
}

function isLiteral(type: FieldType): boolean {
  return type === 'number' || type === 'flag';
}

function within(where: 'attribute' | 'script' | 'json', value: string): string {
  if (where === 'attribute') return forMarkup(value);
  return where === 'script' ? forScriptString(value) : forJson(value);
}

function inAttribute(script: string, isAttribute: boolean): string {
  return isAttribute ? forMarkup(script) : script;
}

const REFERENCES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** Text and quoted attributes alike (HTML Standard, 13.3, "escaping a string", and both quotes). */
function forMarkup(value: string): string {
  return value.replace(/[&<>"']/g, (sign) => REFERENCES[sign]!);
}

/** Within quotes of any kind in a script, and never the end of the script element. */
function forScriptString(value: string): string {
  return value.replace(
    /[^\w .,:;/+#()?=@!%*\-[\]{|}~^&$\u00a1-\u2027\u202a-\ud7ff\ue000-\uffff]|\$(?=\{)|[\\]/gu,
    unicode,
  );
}

/** Within quotes in JSON, and never the end of the script element (RFC 8259, 7). */
function forJson(value: string): string {
  return JSON.stringify(value)
    .slice(1, -1)
    .replace(/[<>&\u2028\u2029]/g, unicode);
}

function unicode(sign: string): string {
  let text = '';
  for (let i = 0; i < sign.length; i++) text += `\\u${sign.charCodeAt(i).toString(16).padStart(4, '0')}`;
  return text;
}
