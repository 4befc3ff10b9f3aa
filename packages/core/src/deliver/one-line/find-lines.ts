import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import type { LineForm } from './files.js';

/** The one line as it stands in a page. */
export interface FoundLine {
  /** Whole address. */
  readonly src: string;
  readonly form: LineForm;
  readonly isInHead: boolean;
  /** Of the release that it is pinned to; null where it follows what is published. */
  readonly digest: string | null;
  /** Its element in the page's text, where the parser was asked to note that. */
  readonly range: { readonly start: number; readonly end: number } | undefined;
}

/**
 * Where the line of a site stands in a page so that it runs: not in comments, templates or noscript.
 *
 * @param name - see `lineName`
 * @param page - whole address of the page
 */
export function findLines(html: string | Tree.Document, name: string, page: string): FoundLine[] {
  const found: FoundLine[] = [];
  const document = typeof html === 'string' ? parse(html) : html;
  const waiting: { node: Tree.Node; isInHead: boolean }[] = [{ node: document, isInHead: false }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { node } = next;
    const isInHead = next.isInHead || node.nodeName === 'head';
    if (node.nodeName === 'script') {
      const line = lineOf(node, name, page);
      if (line) found.push({ ...line, isInHead });
    }
    const below = 'childNodes' in node ? node.childNodes : [];
    for (let i = below.length - 1; i >= 0; i--) waiting.push({ node: below[i]!, isInHead });
  }
  return found;
}

/** Whether an address is that of a site's line: of what is served now, or of one release. */
export function isLineAddress(address: string, name: string): boolean {
  return digestIn(address, name) !== undefined;
}

const PINNED = /^[0-9a-f]{20}$/;

/** @returns null for the line itself, undefined for any other address */
function digestIn(address: string, name: string): string | null | undefined {
  if (!URL.canParse(address)) return undefined;
  const steps = new URL(address).pathname.split('/');
  const last = steps.at(-1)!;
  if (last === `${name}.js`) return null;
  const digest = last.replace(/\.js$/, '');
  return steps.at(-2) === name && PINNED.test(digest) ? digest : undefined;
}

function lineOf(script: Tree.Element, name: string, page: string): Omit<FoundLine, 'isInHead'> | undefined {
  const attribute = (wanted: string): string | undefined =>
    script.attrs.find((one) => one.name === wanted)?.value;
  const src = attribute('src');
  if (src === undefined || !URL.canParse(src, page)) return undefined;
  const address = new URL(src, page).href;
  const digest = digestIn(address, name);
  if (digest === undefined) return undefined;
  const isWaitedFor =
    attribute('async') === undefined &&
    attribute('defer') === undefined &&
    attribute('type')?.toLowerCase() !== 'module';
  const location = script.sourceCodeLocation;
  return {
    ...{ src: address, form: isWaitedFor ? 'order' : 'async', digest },
    range: location ? { start: location.startOffset, end: location.endOffset } : undefined,
  };
}
