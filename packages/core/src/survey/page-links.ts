import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import { attributeOf, isElement, textOf } from '../html/index.js';
import type { DeclaredPolicy } from '../policy/index.js';

/** A page with more is read so far. */
const MAX_LINKS = 10_000;

/** What a page says of itself and where it leads. */
export interface PageHead {
  title: string;
  language: string;
  base: string | undefined;
  canonical: string | undefined;
  refresh: string | undefined;
  metaPolicies: DeclaredPolicy[];
  /** Where the page's own declaration of its encoding stands. */
  charsetAt: number | undefined;
  links: string[];
  /** What its type is guessed by. */
  signs: PageSigns;
}

export interface PageSigns {
  forms: number;
  articles: number;
  links: number;
  openGraphType: string;
  dataTypes: string;
}

/** Title, language, links and declarations of a page, in one walk. */
export function readHead(document: Tree.Document): PageHead {
  const head: PageHead = {
    title: '',
    language: '',
    base: undefined,
    canonical: undefined,
    refresh: undefined,
    metaPolicies: [],
    charsetAt: undefined,
    links: [],
    signs: { forms: 0, articles: 0, links: 0, openGraphType: '', dataTypes: '' },
  };
  const hrefs = new Set<string>();
  const waiting: Tree.ChildNode[] = [...document.childNodes].reverse();
  let hasTitle = false;
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    if (!isElement(node)) continue;
    switch (node.tagName) {
      case 'html':
        head.language = attributeOf(node, 'lang')?.trim() ?? '';
        break;
      case 'title':
        // Titles of drawings are none of the page.
        if (!hasTitle && node.namespaceURI.endsWith('xhtml')) {
          head.title = textOf(node).replace(/\s+/g, ' ').trim().slice(0, 300);
          hasTitle = true;
        }
        break;
      case 'base':
        head.base ??= attributeOf(node, 'href');
        break;
      case 'link':
        readLink(node, head, hrefs);
        break;
      case 'meta':
        readMeta(node, head);
        break;
      case 'a':
      case 'area':
        addLink(attributeOf(node, 'href'), hrefs);
        head.signs.links++;
        break;
      case 'iframe':
      case 'frame':
        addLink(attributeOf(node, 'src'), hrefs);
        break;
      case 'form':
        if (isRealForm(node)) head.signs.forms++;
        break;
      case 'article':
        head.signs.articles++;
        break;
      case 'script':
        if (/ld\+json/i.test(attributeOf(node, 'type') ?? ''))
          head.signs.dataTypes += textOf(node).slice(0, 20_000);
        continue;
    }
    for (let i = node.childNodes.length - 1; i >= 0; i--) waiting.push(node.childNodes[i]!);
  }
  head.links = [...hrefs];
  return head;
}

function addLink(href: string | undefined, hrefs: Set<string>): void {
  if (href !== undefined && hrefs.size < MAX_LINKS) hrefs.add(href.trim());
}

function readLink(element: Tree.Element, head: PageHead, hrefs: Set<string>): void {
  const rels = (attributeOf(element, 'rel') ?? '').toLowerCase().split(/\s+/);
  const href = attributeOf(element, 'href');
  if (rels.includes('canonical')) head.canonical ??= href?.trim();
  if (rels.includes('next') || rels.includes('prev') || (rels.includes('alternate') && isPage(element)))
    addLink(href, hrefs);
}

/** Alternates that are feeds are no pages. */
function isPage(element: Tree.Element): boolean {
  const type = attributeOf(element, 'type');
  return type === undefined || /html/i.test(type);
}

function readMeta(element: Tree.Element, head: PageHead): void {
  const content = attributeOf(element, 'content') ?? '';
  const isCharset =
    attributeOf(element, 'charset') !== undefined ||
    (attributeOf(element, 'http-equiv')?.toLowerCase() === 'content-type' && /charset/i.test(content));
  if (isCharset) head.charsetAt ??= element.sourceCodeLocation?.startOffset;
  switch (attributeOf(element, 'http-equiv')?.trim().toLowerCase()) {
    case 'refresh':
      head.refresh ??= refreshTarget(content);
      break;
    case 'content-security-policy':
      head.metaPolicies.push({ value: content, from: 'meta', isReportOnly: false });
      break;
  }
  if (attributeOf(element, 'property')?.toLowerCase() === 'og:type')
    head.signs.openGraphType = content.trim();
}

/** Where a refresh leads (HTML Standard 4.2.5.3, "shared declarative refresh steps"); undefined where it stays. */
export function refreshTarget(content: string): string | undefined {
  const time = /^[\t\n\f\r ]*[\d.]+/.exec(content)?.[0];
  if (time === undefined) return undefined;
  const behind = content.slice(time.length);
  if (!/^[;,\t\n\f\r ]/.test(behind)) return undefined;
  const rest = behind.trimStart().replace(/^[;,]/, '').trimStart();
  const named = /^url[\t\n\f\r ]*=/i.exec(rest)?.[0] ?? '';
  const address = rest.slice(named.length).trim();
  const quote = address[0] === '"' || address[0] === "'" ? address[0] : undefined;
  const target = quote === undefined ? address : address.slice(1).split(quote, 1)[0]!;
  return target === '' ? undefined : target;
}

/** A form that asks for more than a word to search for. */
function isRealForm(form: Tree.Element): boolean {
  let fields = 0;
  const waiting: Tree.ChildNode[] = [...form.childNodes];
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    if (!isElement(node)) continue;
    const type = (attributeOf(node, 'type') ?? 'text').toLowerCase();
    if (node.tagName === 'textarea' || node.tagName === 'select') fields++;
    if (
      node.tagName === 'input' &&
      !['hidden', 'submit', 'button', 'search', 'image', 'reset'].includes(type)
    )
      fields++;
    waiting.push(...node.childNodes);
  }
  return fields >= 2;
}
