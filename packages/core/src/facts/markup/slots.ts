import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import { isAccountValue } from '../accounts.js';
import type { Range, Slot } from '../types.js';

const TAGS = new Set(['div', 'span', 'section', 'aside', 'ins', 'figure', 'p']);
/** Words in the name of an element that something is to come into. */
const SPEAKS =
  /(?:^|[-_])(?:widget|embed|calendar|chat|badge|reviews?|feed|mount|booking|popup|player|form|captcha|timetable)(?:$|[-_])/i;

/** What an empty element is called, where it waits for a script to fill it; undefined for any other. */
export function slotOf(element: Tree.Element, range: Range): Slot | undefined {
  const isCustom = element.tagName.includes('-');
  if (!isCustom && !TAGS.has(element.tagName)) return undefined;
  const isEmpty = element.childNodes.every((child) => 'value' in child && child.value.trim() === '');
  if (!isEmpty && !isCustom) return undefined;
  const names: string[] = isCustom ? [element.tagName] : [];
  let isSure = isCustom;
  for (const { name, value } of element.attrs) {
    if (name === 'id' || name === 'class') names.push(...value.split(/\s+/).filter((one) => one.length >= 4));
    const label = /^data-(.+)$/.exec(name)?.[1];
    if (label === undefined) continue;
    names.push(name);
    isSure ||= isAccountValue(value, label);
  }
  if (!isSure && !names.some((name) => SPEAKS.test(name))) return undefined;
  return { names, isSure, range, confidence: isSure ? 'likely' : 'guess' };
}
