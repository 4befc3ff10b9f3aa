import type { ServerResponse } from 'node:http';

/** How a stand-in can fail its customers, as real ones do. Several at once are joined by commas. */
export const MISBEHAVIOURS = [
  /** It takes half a minute to answer. */
  'slow',
  /** It answers with errors. */
  'down',
  /** It no longer has its files. */
  'gone',
  /** Its script stops with an error. */
  'exception',
  /** It knows the account, and not the domain. */
  'unregistered',
  /** It believes that the visitor has sent it away before. */
  'dismissed',
  /** It lies over the whole window. */
  'covers',
  /** It keeps something in the browser before anybody has agreed. */
  'early',
  /** Its file is another one than yesterday. */
  'changed',
  /** As a container: it brings the counter that the site has already. */
  'doubles',
] as const;
export type Misbehaviour = (typeof MISBEHAVIOURS)[number];

/** Eight failures at once, each of its own kind, by the provider that has it. The eighth is the page with a strict policy. */
export const EIGHT_FAILURES: Readonly<Record<string, readonly Misbehaviour[]>> = {
  slotwell: ['slow'],
  glintpixel: ['exception'],
  formhatch: ['unregistered'],
  biscuitkeel: ['dismissed'],
  nudgelet: ['covers', 'early'],
  crateline: ['doubles'],
};

/** The page whose own content policy lets no snippet in. */
export const STRICT_PAGE = '/booking/confirmation';

const SLOW_MS = 30_000;

/** What stands in an address as ways to misbehave; what is none is left out. */
export function readMisbehaviours(text: string): readonly Misbehaviour[] {
  return MISBEHAVIOURS.filter((one) => text.split(',').includes(one));
}

/** Answers in the place of a file, where that is how it misbehaves. @returns whether it did */
export function failInstead(how: readonly Misbehaviour[], response: ServerResponse, go: () => void): boolean {
  if (how.includes('down'))
    response.writeHead(500, { 'content-type': 'text/html' }).end('<h1>Out of order</h1>');
  else if (how.includes('gone')) response.writeHead(404, { 'content-type': 'text/plain' }).end('gone');
  else if (how.includes('slow')) setTimeout(go, SLOW_MS).unref();
  else return false;
  return true;
}

/** A provider's script as it is while it misbehaves. @param origin - its own address */
export function misbehaving(
  source: string,
  how: readonly Misbehaviour[],
  key: string,
  origin: string,
): string {
  if (how.includes('unregistered'))
    return `console.error('${key}: ' + location.hostname + ' is not registered for this account');\n`;
  if (how.includes('dismissed')) return `/* ${key}: dismissed before */\n`;
  const before = [
    how.includes('changed') ? `/* ${key}, edition of today */` : '',
    how.includes('exception') ? `throw new Error('${key} cannot read its settings');` : '',
    how.includes('early') ? `document.cookie = '${key}-visitor=1;path=/;max-age=31536000';` : '',
  ];
  const after = [
    how.includes('covers')
      ? `(function () { var sheet = document.createElement('div'); sheet.id = '${key}-sheet';
  sheet.style.cssText = 'position:fixed;left:0;top:0;right:0;bottom:0;z-index:99'; document.body.appendChild(sheet); })();`
      : '',
    how.includes('doubles')
      ? `(function () { var tag = document.createElement('script'); tag.src = '${origin.replace(key, 'tallymast')}/count.js';
  tag.dataset.account = 'TM-1887'; document.head.appendChild(tag); })();`
      : '',
  ];
  return [...before, source, ...after].filter((piece) => piece !== '').join('\n');
}
