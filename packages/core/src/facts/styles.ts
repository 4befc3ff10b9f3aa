import { boxOf } from './script/elements.js';
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
  for (const { groups, index, body } of rules(plain)) {
    const styles = new Map<string, string>();
    for (const declaration of body.split(';')) {
      const at = declaration.indexOf(':');
      if (at > 0) styles.set(declaration.slice(0, at).trim().toLowerCase(), declaration.slice(at + 1).trim());
    }
    const box = boxOf(styles);
    if (box)
      record.boxes.push({
        ...box,
        range: { start: base + index, end: base + index + groups.length },
        confidence: 'likely',
      });
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
}

/** Blocks without blocks inside them, in one pass. */
function* rules(css: string): Generator<Rule> {
  /** Where what stands before a block begins: behind the last of `{`, `}` and `;`. */
  let start = 0;
  /** The block that is open innermost, and where what stands before it begins; -1 where none is. */
  let open = -1;
  let before = 0;
  for (let i = 0; i < css.length; i++) {
    const sign = css.charCodeAt(i);
    if (sign !== OPEN && sign !== CLOSE && sign !== SEMICOLON) continue;
    if (sign === OPEN) {
      before = start;
      open = i;
    } else if (sign === CLOSE) {
      if (open >= 0) yield { groups: css.slice(before, open), index: before, body: css.slice(open + 1, i) };
      open = -1;
    }
    start = i + 1;
  }
}

const OPEN = 0x7b;
const CLOSE = 0x7d;
const SEMICOLON = 0x3b;
