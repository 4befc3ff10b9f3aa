import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { shallowTree } from '../../bounds/shallow-tree.js';
import { tooMuchOf } from '../../bounds/too-much.js';
import type { PasteRule } from './rule.js';

const STARTS = /^\s*(?:<!--[^>]{0,200}-->\s*)?(?:<!doctype\s+html|<html[\s>])/i;
/** What every page has of its own, and must have once. */
const OF_PAGE = /^(?:title|base)$/;
const OF_PAGE_META = /^(?:viewport|charset|content-type|x-ua-compatible)$/i;

/** A document, or its head, in place of a piece of code. */
export const WHOLE_PAGE: PasteRule = {
  kind: 'whole-page',
  find(code) {
    if (!/<(?:html|head|!doctype)/i.test(code)) return undefined;
    const match = STARTS.exec(code) ?? (/<\/head\s*>/i.test(code) ? /^\s*<head[\s>]/i.exec(code) : null);
    if (match) return { start: match.index, end: match.index + match[0].length };
    const both = /<html[\s>]/i.exec(code);
    return both && /<body[\s>]/i.test(code) && isOutside(code, both.index)
      ? { start: both.index, end: both.index + both[0].length }
      : undefined;
  },
  repair(code) {
    let document: Tree.Document;
    try {
      document = parse(code, { sourceCodeLocationInfo: true, treeAdapter: shallowTree() });
    } catch (error) {
      if (tooMuchOf(error) === undefined) throw error;
      return code;
    }
    const html = document.childNodes.find((node) => node.nodeName === 'html');
    const parts = html && 'childNodes' in html ? html.childNodes : [];
    const kept = parts.flatMap((part) =>
      'childNodes' in part && (part.nodeName === 'head' || part.nodeName === 'body')
        ? part.childNodes.filter((child) => !isOfPage(child))
        : [],
    );
    return kept
      .flatMap(({ sourceCodeLocation: at }) => (at ? [code.slice(at.startOffset, at.endOffset).trim()] : []))
      .filter((text) => text !== '')
      .join('\n');
  },
};

/** Not within a script or a comment that stands before. */
function isOutside(code: string, index: number): boolean {
  const before = code.slice(0, index);
  const opened = before.lastIndexOf('<script');
  const commented = before.lastIndexOf('<!--');
  return (
    (opened < 0 || before.indexOf('</script', opened) >= 0) &&
    (commented < 0 || before.indexOf('-->', commented) >= 0)
  );
}

function isOfPage(node: Tree.Node): boolean {
  if (!('tagName' in node)) return node.nodeName === '#text';
  if (OF_PAGE.test(node.tagName)) return true;
  if (node.tagName !== 'meta') return false;
  return node.attrs.some(
    ({ name, value }) =>
      name === 'charset' || ((name === 'name' || name === 'http-equiv') && OF_PAGE_META.test(value)),
  );
}
