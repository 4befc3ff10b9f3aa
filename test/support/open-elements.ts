import { Parser } from 'parse5';
// The machine itself is no part of what the package offers.
import { PlainScanner } from '../../packages/core/dist/insert/machine/scanner.js';
import { TAG_NAMES } from '../../packages/core/dist/insert/machine/tags.js';
import { isQuirksDoctype } from '../../packages/core/dist/insert/doctype.js';

const KNOWN = TAG_NAMES.split(' ');
const NAMESPACES = ['xhtml', 'svg', 'MathML'];

/** The elements that the page machine has open after a page's text, outermost first. */
export function openElements(html: string): string {
  const scanner = new PlainScanner();
  scanner.reset({ steps: [], words: 0, wants: 0 }, false, 0, -1);
  const bytes = new TextEncoder().encode(html);
  scanner.push(bytes);
  while (scanner.run(false) === 1) {
    const { from, to } = scanner.question();
    scanner.answer(isQuirksDoctype(new TextDecoder().decode(bytes.subarray(from, to))) ? 1 : 0);
  }
  return scanner
    .openNumbers()
    .map((number) => named((number >> 20) & 3, KNOWN[number & 0xfffff] ?? 'other'))
    .join(' ');
}

/** Parts of a whole parser that its types keep private. */
interface ParserInside {
  tokenizer: { write(html: string, isLast: boolean): void; _emitCurrentCharacterToken(next: null): void };
  openElements: { stackTop: number; items: { tagName: string; namespaceURI: string }[] };
}

/** The same, of a whole parser. */
export function parserElements(html: string): string {
  const parser = new Parser() as unknown as ParserInside;
  parser.tokenizer.write(html, false);
  // Text that could go on is still kept back.
  parser.tokenizer._emitCurrentCharacterToken(null);
  return parser.openElements.items
    .slice(0, parser.openElements.stackTop + 1)
    .map(({ tagName, namespaceURI }) => {
      const name = tagName.toLowerCase();
      const namespace = NAMESPACES.findIndex((ending) => namespaceURI.endsWith(ending));
      return named(namespace, KNOWN.includes(name) ? name : 'other');
    })
    .join(' ');
}

function named(namespace: number, name: string): string {
  return `${NAMESPACES[namespace]!}:${name}`;
}
