import { boxOf } from './script/elements.js';
import type { Record } from './script/record.js';
import type { ResourceKind } from './types.js';

/** Reads a style sheet for what it fetches and for boxes that stay in place (CSS Syntax Level 3, as far as that needs). */
export function readStyles(record: Record, css: string, base: number): void {
  // Comments hold their length, so that places stay what they are.
  const plain = css.replace(/\/\*[^]*?(?:\*\/|$)/g, (comment) => ' '.repeat(comment.length));
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
      sure: 'certain',
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
        sure: 'likely',
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

interface Rule {
  /** What stands before the braces. */
  readonly groups: string;
  readonly index: number;
  readonly body: string;
}

/** Blocks without blocks inside them. */
function* rules(css: string): Generator<Rule> {
  for (const match of css.matchAll(/([^{};]*)\{([^{}]*)\}/g))
    yield { groups: match[1]!, index: match.index, body: match[2]! };
}
