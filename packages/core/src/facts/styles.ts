import { hidesPage } from './page-changes.js';
import { boxOf } from './boxes.js';
import type { Record } from './script/record.js';
import type { ResourceKind } from './types.js';

/** Reads a style sheet for what it fetches and for boxes that stay in place (CSS Syntax Level 3, as far as that needs). */
export function readStyles(record: Record, css: string, base: number): void {
  // Comments hold their length, so that places stay what they are.
  const plain = withoutComments(css);
  const found = (address: string, kind: ResourceKind, at: number, length: number): void => {
    if (address === '' || /^(data:|#)/i.test(address)) return;
    record.loads.push({
      address,
      kind,
      by: 'tag',
      mode: 'none',
      when: 'parse',
      noScript: false,
      range: { start: base + at, end: base + at + length },
      confidence: 'certain',
    });
  };
  for (const match of plain.matchAll(/@import\s+(?:url\(\s*)?["']?([^"')\s;]+)/gi))
    found(match[1]!, 'style', match.index, match[0].length);
  const variables = new Map<string, string>();
  for (const match of plain.matchAll(/(--[\w-]{1,60})\s*:\s*([^;{}]{1,100})/g))
    if (!variables.has(match[1]!)) variables.set(match[1]!, match[2]!.trim());
  const boxes = new Map<string, number>();
  for (const { groups, index, body, around } of rules(plain)) {
    const styles = new Map<string, string>();
    for (const declaration of body.split(';')) {
      const at = declaration.indexOf(':');
      if (at > 0) styles.set(declaration.slice(0, at).trim().toLowerCase(), declaration.slice(at + 1).trim());
    }
    if (hidesPage(groups, body))
      record.pageChanges.push({
        kind: 'hidden',
        what: groups.trim(),
        isGuarded: false,
        range: { start: base + index, end: base + index + groups.length },
        confidence: 'likely',
      });
    const box = boxOf(styles, variables);
    const selector = groups.trim();
    if (box) {
      boxes.set(selector, record.boxes.length);
      record.boxes.push({
        ...box,
        ...windowOf(around),
        range: { start: base + index, end: base + index + groups.length },
        confidence: 'likely',
      });
    } else if (styles.get('display') === 'none' && around !== '' && boxes.has(selector)) {
      const at = boxes.get(selector)!;
      record.boxes[at] = { ...record.boxes[at]!, ...outside(windowOf(around)) };
    }
    const isFont = /^@font-face/i.test(groups.trim());
    for (const match of body.matchAll(/url\(\s*["']?([^"')]+)/gi))
      found(
        match[1]!.trim(),
        isFont ? 'font' : 'image',
        index + groups.length + 1 + match.index,
        match[0].length,
      );
  }
}

interface Window {
  readonly minWindow?: number;
  readonly maxWindow?: number;
}

/** The widths of the window that media queries around a rule name (Media Queries 4, 2.4). */
function windowOf(around: string): Window {
  const least = [
    ...around.matchAll(
      /min-width\s*:\s*(\d+(?:\.\d+)?)(px|em|rem)|width\s*>=?\s*(\d+(?:\.\d+)?)(px|em|rem)/g,
    ),
  ];
  const most = [
    ...around.matchAll(
      /max-width\s*:\s*(\d+(?:\.\d+)?)(px|em|rem)|width\s*<=?\s*(\d+(?:\.\d+)?)(px|em|rem)/g,
    ),
  ];
  const lengths = (found: RegExpExecArray[]): number[] =>
    found.map(([, a, unitA, b, unitB]) => Number(a ?? b) * ((unitA ?? unitB) === 'px' ? 1 : 16));
  return {
    ...(least.length > 0 ? { minWindow: Math.max(...lengths(least)) } : {}),
    ...(most.length > 0 ? { maxWindow: Math.min(...lengths(most)) } : {}),
  };
}

/** The widths at which something is still there that is hidden at others. */
function outside({ minWindow, maxWindow }: Window): Window {
  if (minWindow === undefined && maxWindow !== undefined) return { minWindow: maxWindow + 1 };
  return minWindow !== undefined && maxWindow === undefined ? { maxWindow: minWindow - 1 } : {};
}

function withoutComments(css: string): string {
  let plain = '';
  let from = 0;
  for (let at = css.indexOf('/*'); at >= 0; at = css.indexOf('/*', from)) {
    const close = css.indexOf('*/', at + 2);
    const end = close < 0 ? css.length : close + 2;
    plain += css.slice(from, at) + ' '.repeat(end - at);
    from = end;
  }
  return plain + css.slice(from);
}

interface Rule {
  /** What stands before the braces. */
  readonly groups: string;
  readonly index: number;
  readonly body: string;
  /** What stands before the blocks around it, as media queries do. */
  readonly around: string;
}

/** Blocks without blocks inside them, in one pass. */
function* rules(css: string): Generator<Rule> {
  /** Where what stands before a block begins: behind the last of `{`, `}` and `;`. */
  let start = 0;
  /** The block that is open innermost, and where what stands before it begins; -1 where none is. */
  let open = -1;
  let before = 0;
  const outer: string[] = [];
  for (let i = 0; i < css.length; i++) {
    const sign = css.charCodeAt(i);
    if (sign !== OPEN && sign !== CLOSE && sign !== SEMICOLON) continue;
    if (sign === OPEN) {
      if (outer.length < MAX_DEPTH) outer.push(css.slice(start, Math.min(i, start + MAX_PRELUDE)));
      before = start;
      open = i;
    } else if (sign === CLOSE) {
      outer.pop();
      if (open >= 0)
        yield {
          groups: css.slice(before, open),
          index: before,
          body: css.slice(open + 1, i),
          around: outer.join(' ').toLowerCase(),
        };
      open = -1;
    }
    start = i + 1;
  }
}

/** Blocks around a block, and what of their preludes is read. */
const MAX_DEPTH = 8;
const MAX_PRELUDE = 300;

const OPEN = 0x7b;
const CLOSE = 0x7d;
const SEMICOLON = 0x3b;
