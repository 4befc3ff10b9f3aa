import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { assertShallow } from '../contain/index.js';
import { attributeOf, isElement, textOf } from '../html/index.js';

/** A form that asks for a password, and what a browser would send with it. */
export interface PasswordForm {
  /** Whole address that it is sent to. */
  readonly action: string;
  readonly method: 'get' | 'post';
  /** Names and values in document order, as the page has filled them in. */
  readonly entries: readonly (readonly [name: string, value: string])[];
  /** Names of the fields that somebody fills in; no user where only a password is asked for. */
  readonly user: string | undefined;
  readonly password: string;
}

const TYPED = new Set(['', 'text', 'email', 'tel', 'search', 'url', 'number']);
const NEVER_SENT = new Set(['submit', 'button', 'reset', 'image', 'file']);

/**
 * The first form of a page that asks for a password (HTML Standard, 4.10.22.4, "constructing the entry list"; a script
 * that changes it is not run).
 *
 * @param url - of the page
 * @throws TooMuchError for a page that is nested too deep
 */
export function passwordForm(html: string, url: string): PasswordForm | undefined {
  const document = parse(html);
  assertShallow(document);
  const base = elementsOf(document).find(({ tagName }) => tagName === 'base');
  const href = base && attributeOf(base, 'href');
  const against = href !== undefined && URL.canParse(href, url) ? new URL(href, url).href : url;
  for (const form of elementsOf(document))
    if (form.tagName === 'form') {
      const found = readForm(form, url, against);
      if (found) return found;
    }
  return undefined;
}

function readForm(form: Tree.Element, url: string, base: string): PasswordForm | undefined {
  const entries: [string, string][] = [];
  let user: string | undefined;
  let password: string | undefined;
  let isButtonTaken = false;
  for (const element of elementsOf(form)) {
    const name = attributeOf(element, 'name') ?? '';
    const type = (attributeOf(element, 'type') ?? '').trim().toLowerCase();
    if (name === '' || attributeOf(element, 'disabled') !== undefined) continue;
    if (element.tagName === 'input' && type === 'password') password ??= name;
    if (element.tagName === 'input' && TYPED.has(type) && password === undefined) user = name;
    // A browser sends the button that was pressed, and the first one is.
    const isButton =
      (element.tagName === 'button' && type !== 'button' && type !== 'reset') || type === 'submit';
    const value = isButton && !isButtonTaken ? (attributeOf(element, 'value') ?? '') : valueOf(element, type);
    isButtonTaken ||= isButton;
    if (value !== undefined) entries.push([name, value]);
  }
  const action = attributeOf(form, 'action') ?? '';
  if (password === undefined || !URL.canParse(action || url, base)) return undefined;
  return {
    action: new URL(action || url, base).href,
    method: (attributeOf(form, 'method') ?? '').trim().toLowerCase() === 'post' ? 'post' : 'get',
    entries,
    user,
    password,
  };
}

/** What a field is sent with; undefined for one that is not sent. */
function valueOf(element: Tree.Element, type: string): string | undefined {
  switch (element.tagName) {
    case 'input':
      if (NEVER_SENT.has(type)) return undefined;
      if (type === 'checkbox' || type === 'radio')
        return attributeOf(element, 'checked') === undefined
          ? undefined
          : (attributeOf(element, 'value') ?? 'on');
      return attributeOf(element, 'value') ?? '';
    case 'textarea':
      return textOf(element);
    case 'select': {
      const options = elementsOf(element).filter(({ tagName }) => tagName === 'option');
      const chosen = options.find((option) => attributeOf(option, 'selected') !== undefined) ?? options[0];
      return chosen && (attributeOf(chosen, 'value') ?? textOf(chosen).trim());
    }
    default:
      return undefined;
  }
}

/** The form as somebody sends it who fills it in (URL Standard, 5.2, "urlencoded serializing"). */
export function filledForm({ entries, user, password }: PasswordForm, name: string, value: string): string {
  const typed = new URLSearchParams();
  for (const [field, given] of entries)
    typed.append(field, field === password ? value : field === user ? name : given);
  return typed.toString();
}

/** All elements below a node, in document order. Without calling itself. */
function elementsOf(node: Tree.ParentNode): Tree.Element[] {
  const found: Tree.Element[] = [];
  const waiting: Tree.ChildNode[] = [...node.childNodes].reverse();
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    if (!isElement(next)) continue;
    found.push(next);
    for (let i = next.childNodes.length - 1; i >= 0; i--) waiting.push(next.childNodes[i]!);
  }
  return found;
}
