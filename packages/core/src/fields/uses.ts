import { tokenizer, type Token } from 'acorn';
import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { memoizeByText } from '../memoize/by-text.js';
import type { FieldPlace, FieldUse } from './types.js';
import { FIELDS_TEXTS } from '../texts/fields.js';
import { say } from '../texts/say.js';

const WRITTEN = /@\{([a-z][a-z0-9_-]{0,39})\}/g;

/**
 * The fields in a piece of code, each with where it stands: found by parsing the code with a plain word in the place of
 * each (HTML Standard, 13.2, and ECMAScript's tokens).
 */
export const fieldUses = memoizeByText(4_000, (code): readonly FieldUse[] => {
  const found = [...code.matchAll(WRITTEN)];
  if (found.length === 0) return [];
  const mark = freeWord(code);
  let number = 0;
  const marked = code.replace(WRITTEN, () => wordOf(mark, number++));
  const places = new Map<number, FieldPlace>();
  const note = (text: string, place: (at: number, end: number) => FieldPlace): void => {
    for (const match of text.matchAll(new RegExp(`${mark}(\\d+)z`, 'g')))
      places.set(Number(match[1]), place(match.index, match.index + match[0].length));
  };
  visit(parseFragment(marked, { sourceCodeLocationInfo: true }), marked, mark, note);
  return found.map((match, index) => ({
    name: match[1]!,
    start: match.index,
    end: match.index + match[0].length,
    place: places.get(index) ?? {
      kind: 'refused',
      why: FIELDS_TEXTS.standsNameTag,
    },
  }));
});

/** A word that is not in the code; with a number and a "z" behind it, it is one identifier wherever it stands. */
function freeWord(code: string): string {
  let word = 'qfield';
  while (code.includes(word)) word += 'q';
  return word;
}

function wordOf(mark: string, number: number): string {
  return `${mark}${number}z`;
}

type Note = (text: string, place: (at: number, end: number) => FieldPlace) => void;

const refused = (why: string) => (): FieldPlace => ({ kind: 'refused', why });

function visit(node: Tree.Node, source: string, mark: string, note: Note): void {
  if ('attrs' in node)
    for (const attribute of node.attrs) {
      if (!attribute.value.includes(mark)) continue;
      const at = node.sourceCodeLocation?.attrs?.[attribute.name];
      note(
        attribute.value,
        attributePlace(
          attribute.name,
          attribute.value,
          at && source.slice(at.startOffset, at.endOffset),
          mark,
        ),
      );
    }
  if (node.nodeName === '#comment')
    note((node as Tree.CommentNode).data, refused(FIELDS_TEXTS.standsComment));
  if (node.nodeName === '#text') textPlaces(node as Tree.TextNode, mark, note);
  if ('content' in node) visit(node.content, source, mark, note);
  if ('childNodes' in node) for (const child of node.childNodes) visit(child, source, mark, note);
}

const URL_ATTRIBUTES = new Set('src href action formaction poster data cite ping'.split(' '));

function attributePlace(
  name: string,
  value: string,
  source: string | undefined,
  mark: string,
): (at: number, end: number) => FieldPlace {
  const isQuoted = source === undefined || /^[^=]*=\s*["']/.test(source);
  if (!isQuoted || name === 'style') return () => ({ kind: 'bare' });
  if (name.startsWith('on')) return scriptPlaces(value, true);
  if (name === 'srcset' || name === 'srcdoc') return refused(say(FIELDS_TEXTS.standsNameWhich, { name }));
  if (!URL_ATTRIBUTES.has(name)) return () => ({ kind: 'attribute' });
  return (at) => ({ kind: at === 0 ? 'url-start' : urlKind(value.slice(0, at), mark), within: 'attribute' });
}

/** Whether an address goes on with a piece of itself; what comes before is its beginning. */
function urlKind(before: string, mark: string): 'url-part' | 'url-start' {
  return before.replaceAll(mark, '').trim() === '' ? 'url-start' : 'url-part';
}

const JSON_TYPES = /^(?:application\/(?:[\w.+-]+\+)?json|importmap|speculationrules)$/i;
const SCRIPT_TYPES = /^(?:|module|(?:text|application)\/(?:x-)?(?:java|ecma)script)$/i;

function textPlaces(node: Tree.TextNode, mark: string, note: Note): void {
  if (!node.value.includes(mark)) return;
  const parent = node.parentNode;
  const name = parent && 'tagName' in parent ? parent.tagName : '';
  if (name === 'style') note(node.value, () => ({ kind: 'bare' }));
  else if (name !== 'script') note(node.value, () => ({ kind: 'text' }));
  else {
    const type =
      (parent as Tree.Element).attrs.find((attribute) => attribute.name === 'type')?.value.trim() ?? '';
    if (JSON_TYPES.test(type)) note(node.value, jsonPlaces(node.value, mark));
    else if (SCRIPT_TYPES.test(type)) note(node.value, scriptPlaces(node.value, false));
    else note(node.value, refused(say(FIELDS_TEXTS.standsScriptType, { type })));
  }
}

function tokensOf(script: string): Token[] {
  const tokens: Token[] = [];
  try {
    for (const token of tokenizer(script, { ecmaVersion: 'latest', sourceType: 'script' }))
      tokens.push(token);
  } catch {
    // What cannot be read holds no place that is known; the rest does.
  }
  return tokens;
}

const ADDRESS_START = /^(?:https?:)?\/\/|^\//i;

function scriptPlaces(script: string, isAttribute: boolean): (at: number, end: number) => FieldPlace {
  const tokens = tokensOf(script);
  return (at, end) => {
    const token = tokens.find((candidate) => candidate.start <= at && end <= candidate.end);
    const label = token?.type.label;
    if (label === 'string' || label === 'template') {
      const before = script.slice(token!.start + (label === 'string' ? 1 : 0), at);
      if (!isAttribute && ADDRESS_START.test(before)) return { kind: 'url-part', within: 'script' };
      return { kind: 'script-string', isAttribute };
    }
    if (label === 'name' && token!.start === at && token!.end === end && isValue(tokens, token!))
      return { kind: 'script-value', isAttribute };
    if (label === 'regexp') return { kind: 'refused', why: FIELDS_TEXTS.standsRegularExpression };
    return {
      kind: 'refused',
      why: token ? FIELDS_TEXTS.standsNameSomething : FIELDS_TEXTS.standsCommentScript,
    };
  };
}

/** A name that stands for a value: not one of a property, a label, a function or what is declared. */
function isValue(tokens: readonly Token[], token: Token): boolean {
  const index = tokens.indexOf(token);
  const before = tokens[index - 1]?.type.label ?? '';
  const after = tokens[index + 1]?.type.label ?? '';
  if (['.', '?.', 'function', 'var', 'const', 'class', 'name', '#'].includes(before)) return false;
  const isKey = after === ':' && (before === '{' || before === ',');
  return !isKey && !['(', '=', '=>', '_=', '.', '?.', '++/--', '['].includes(after);
}

function jsonPlaces(json: string, mark: string): (at: number, end: number) => FieldPlace {
  const tokens = tokensOf(json);
  return (at, end) => {
    const token = tokens.find((candidate) => candidate.start <= at && end <= candidate.end);
    if (token?.type.label === 'string') {
      const before = json.slice(token.start + 1, at);
      if (before !== '' && ADDRESS_START.test(before)) return { kind: urlKind(before, mark), within: 'json' };
      return { kind: 'json-string' };
    }
    if (token?.type.label === 'name' && token.start === at && token.end === end)
      return { kind: 'json-value' };
    return { kind: 'refused', why: FIELDS_TEXTS.standsJsonWhere };
  };
}
