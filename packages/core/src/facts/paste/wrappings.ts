import type { PasteRule } from './rule.js';

const TAG = /(?:<|&lt;)\/?[a-z!]/i;

/** Lines of three backticks or tildes around code (CommonMark 4.5, fenced code blocks), or one backtick on each side. */
export const FENCE: PasteRule = {
  kind: 'fence',
  find(code) {
    if (!code.includes('`') && !code.includes('~~~')) return undefined;
    const match = /^[ \t]{0,3}(?:`{3,}|~{3,})[^\n`]{0,40}$/m.exec(code) ?? /^\s*`(?=<)/.exec(code);
    if (!match || !TAG.test(code)) return undefined;
    return { start: match.index, end: match.index + match[0].length };
  },
  repair(code) {
    const lines = code.split('\n').filter((line) => !/^[ \t]{0,3}(?:`{3,}|~{3,})[^`]{0,40}$/.test(line));
    const text = lines.join('\n').trim();
    return text.startsWith('`<') && text.endsWith('>`') ? text.slice(1, -1) : text;
  },
};

const QUOTED_LINE = /^[ \t]*>[ \t]?/;

/** `>` in front of each line, as mail programs quote. */
export const QUOTED: PasteRule = {
  kind: 'quoted',
  find(code) {
    if (!/^[ \t]*>/m.test(code)) return undefined;
    const lines = code.split('\n').filter((line) => line.trim() !== '');
    const quoted = lines.filter((line) => QUOTED_LINE.test(line));
    if (quoted.length < 2 && !/^[ \t]*>[ \t]*</.test(code)) return undefined;
    if (quoted.length === 0 || !quoted.some((line) => TAG.test(line))) return undefined;
    // The end of a tag that goes over several lines stands so, too, once.
    if (quoted.length < lines.length / 2) return undefined;
    const start = code.indexOf('>');
    return { start, end: start + 1 };
  },
  repair: (code) =>
    code
      .split('\n')
      .map((line) => line.replace(QUOTED_LINE, ''))
      .join('\n'),
};

const NUMBERED_LINE = /^[ \t]*(\d{1,4})[.:|)]?(?:[ \t]+|(?=<))/;

/** A number in front of each line, as pages that show code have. */
export const NUMBERED: PasteRule = {
  kind: 'numbered',
  find(code) {
    if (!/^\s*\d/.test(code)) return undefined;
    const lines = code.split('\n').filter((line) => line.trim() !== '');
    if (lines.length < 2 || !TAG.test(code)) return undefined;
    const first = Number(NUMBERED_LINE.exec(lines[0]!)?.[1] ?? NaN);
    const areInOrder = lines.every((line, at) => /^[ \t]*(\d{1,4})/.exec(line)?.[1] === String(first + at));
    return Number.isNaN(first) || !areInOrder ? undefined : { start: 0, end: lines[0]!.length };
  },
  repair: (code) =>
    code
      .split('\n')
      .map((line) => line.replace(NUMBERED_LINE, '').replace(/^[ \t]*\d{1,4}$/, ''))
      .join('\n'),
};
