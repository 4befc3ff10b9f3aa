import { html as names, parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { shallowTree } from '../../bounds/shallow-tree.js';
import { MAX_MARKUP_DEPTH, TooMuchError } from '../../bounds/too-much.js';
import type { SeenAttribute } from '../accounts.js';
import { boxOf } from '../boxes.js';
import { featuresOfFrame } from '../frame-features.js';
import { readScript } from '../script/read-script.js';
import type { Record } from '../script/record.js';
import { readStyles } from '../styles.js';
import type { CodeProblem, ExecutionPhase, Piece, PieceKind, Range } from '../types.js';
import { attribute, isJsonType, isScriptType } from './script-type.js';
import { changeOfTag } from '../page-changes.js';
import { targetOfAttribute } from '../targets.js';
import { slotOf } from './slots.js';
import { loadOfTag } from './tag-loads.js';
import { FACTS_TEXTS } from '../../texts/facts.js';

export interface MarkupContext {
  readonly record: Record;
  readonly problem: (kind: CodeProblem['kind'], offset: number, message: () => string) => void;
  readonly attributes: SeenAttribute[];
}

/** Elements that may say something of the whole page. */
const CHANGING = new Set(['base', 'title', 'link', 'meta']);

/** In a drawing, a title is a title of that drawing. */
function isHtml({ namespaceURI }: Tree.Element): boolean {
  return namespaceURI === names.NS.HTML;
}

interface Place {
  /** Where the markup's first character stands in the pasted text. */
  readonly base: number;
  readonly noScript: boolean;
  /** Elements around it. */
  readonly depth: number;
}

/** Reads markup into the record. @returns its top-level pieces */
export function readMarkup(context: MarkupContext, html: string, base = 0, noScript = false): Piece[] {
  // Within a noscript there are no scripts, and one in it is an element like others (HTML Standard 4.12.2).
  const fragment = parseFragment(html, {
    sourceCodeLocationInfo: true,
    scriptingEnabled: !noScript,
    treeAdapter: shallowTree(),
  });
  const pieces: Piece[] = [];
  for (const node of fragment.childNodes) {
    const location = node.sourceCodeLocation;
    if (location && !(isText(node) && node.value.trim() === ''))
      pieces.push({
        kind: pieceKind(node),
        name: 'tagName' in node ? node.tagName : '',
        // The parser lets a comment that never ends reach beyond the text.
        range: { start: location.startOffset + base, end: Math.min(location.endOffset, html.length) + base },
      });
    readNode(context, node, html, { base, noScript, depth: 0 });
  }
  return pieces;
}

function isText(node: Tree.Node): node is Tree.TextNode {
  return node.nodeName === '#text';
}

function pieceKind(node: Tree.Node): PieceKind {
  if (isText(node)) return 'text';
  if (!('tagName' in node)) return 'comment';
  switch (node.tagName) {
    case 'script':
      return isScriptType(attribute(node, 'type')) ? 'script' : 'data';
    case 'style':
    case 'link':
    case 'meta':
    case 'noscript':
      return node.tagName;
    case 'iframe':
      return 'frame';
    default:
      return 'content';
  }
}

function readNode(context: MarkupContext, node: Tree.Node, html: string, place: Place): void {
  if (!('tagName' in node)) return;
  if (place.depth > MAX_MARKUP_DEPTH) throw new TooMuchError('nesting');
  readAttributes(context, node, html, place);
  switch (node.tagName) {
    case 'script':
      readScriptElement(context, node, place);
      return;
    case 'style':
      readStyles(context.record, textOf(node), textStart(node, place));
      return;
    case 'noscript':
      if (place.noScript) readChildren(context, node, html, place);
      else readMarkup(context, textOf(node), textStart(node, place), true);
      return;
    case 'template':
      return;
    default:
      readChildren(context, node, html, place);
  }
}

function readChildren(context: MarkupContext, node: Tree.Element, html: string, place: Place): void {
  const inside = { ...place, depth: place.depth + 1 };
  for (const child of node.childNodes) readNode(context, child, html, inside);
}

function textOf(element: Tree.Element): string {
  return element.childNodes.map((child) => ('value' in child ? child.value : '')).join('');
}

function textStart(element: Tree.Element, { base }: Place): number {
  const first = element.childNodes[0]?.sourceCodeLocation;
  return (first?.startOffset ?? element.sourceCodeLocation?.startTag?.endOffset ?? 0) + base;
}

export function rangeOf(element: Tree.Element, base: number): Range {
  const location = element.sourceCodeLocation;
  const tag = location?.startTag ?? location;
  return { start: (tag?.startOffset ?? 0) + base, end: (tag?.endOffset ?? 0) + base };
}

function readScriptElement(context: MarkupContext, element: Tree.Element, place: Place): void {
  const type = attribute(element, 'type');
  const code = textOf(element);
  const start = textStart(element, place);
  if (!isScriptType(type)) {
    if (isJsonType(type)) readJson(context, code, start);
    return;
  }
  const isModule = type?.trim().toLowerCase() === 'module';
  const isAsync = attribute(element, 'async') !== undefined;
  const hasAddress = attribute(element, 'src') !== undefined;
  if (hasAddress) {
    if (code.trim() !== '') context.problem('ignored', start, () => FACTS_TEXTS.scriptAddressIgnores);
    return;
  }
  const when: ExecutionPhase = isModule ? (isAsync ? 'async' : 'deferred') : 'parse';
  const wrong = readScript(context.record, code, { base: start, when, isModule });
  if (wrong) context.problem('syntax', start + wrong.offset, () => wrong.message);
}

function readJson(context: MarkupContext, code: string, start: number): void {
  try {
    JSON.parse(code);
  } catch (error) {
    const at = /position (\d+)/.exec((error as Error).message)?.[1];
    context.problem('json', start + Number(at ?? 0), () => FACTS_TEXTS.dataScriptNo);
  }
}

function readAttributes(context: MarkupContext, element: Tree.Element, html: string, place: Place): void {
  const { record } = context;
  const range = rangeOf(element, place.base);
  const loads = loadOfTag(element, range, place.noScript);
  record.loads.push(...loads);
  const address = loads[0]?.address;
  if (!place.noScript && CHANGING.has(element.tagName) && isHtml(element))
    record.pageChanges.push(
      ...changeOfTag(element.tagName, new Map(element.attrs.map(({ name, value }) => [name, value])), range),
    );
  const sandbox = element.tagName === 'iframe' ? attribute(element, 'sandbox') : undefined;
  if (sandbox !== undefined && !/\ballow-scripts\b/i.test(sandbox) && loads.length > 0)
    record.scriptlessFrames.push({ range, confidence: 'certain' });
  if (element.tagName === 'iframe' && address !== undefined)
    for (const feature of featuresOfFrame(
      attribute(element, 'allow'),
      attribute(element, 'allowfullscreen') !== undefined,
    ))
      record.ask(feature, range, address);
  const slot = place.noScript ? undefined : slotOf(element, range);
  if (slot) record.slots.push(slot);
  for (const { name, value } of element.attrs) {
    const own = attributeRange(element, name, place.base) ?? range;
    if (name === 'id' && value !== '')
      record.makes.push({ id: value, by: 'tag', range: own, confidence: 'certain' });
    else if (/^on[a-z]+$/.test(name)) readHandler(context, value, html, own, place);
    else if (name === 'style') {
      const styles = new Map(
        value.split(';').map((declaration) => {
          const at = declaration.indexOf(':');
          return [declaration.slice(0, at).trim().toLowerCase(), declaration.slice(at + 1).trim()] as const;
        }),
      );
      const box = boxOf(styles);
      if (box) record.boxes.push({ ...box, range: own, confidence: 'certain' });
    }
    const target = element.tagName === 'script' ? targetOfAttribute(name, value) : undefined;
    if (target !== undefined) record.targets.push({ id: target, range: own, confidence: 'likely' });
    if (name === 'href' && /^\s*javascript:/i.test(value))
      readHandler(context, value.replace(/^\s*javascript:/i, ''), html, own, place);
    context.attributes.push({ tag: element.tagName, name, value, range: own, address });
  }
}

/** Code in an attribute is the body of a function that runs when something happens. */
function readHandler(context: MarkupContext, code: string, html: string, own: Range, place: Place): void {
  const from = own.start - place.base;
  const inside = html.slice(from, own.end - place.base).indexOf(code);
  const wrapped = `(function(event){${code}\n})`;
  const prefix = wrapped.indexOf('{') + 1;
  const base = own.start + Math.max(inside, 0) - prefix;
  const wrong = readScript(context.record, wrapped, { base, when: 'later', isModule: false });
  if (wrong) context.problem('syntax', own.start, () => wrong.message);
}

function attributeRange(element: Tree.Element, name: string, base: number): Range | undefined {
  const location = element.sourceCodeLocation?.attrs?.[name];
  return location && { start: location.startOffset + base, end: location.endOffset + base };
}
