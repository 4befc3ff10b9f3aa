import { HISTORY_TEXTS } from '../texts/history.js';
import { say } from '../texts/say.js';

const { paths } = HISTORY_TEXTS;

/** What stands at a path, in words. @param parts - how many the snippet has; undefined where that is not known */
export function pathWords(path: string, parts?: number): string {
  const [first = '', second = '', third] = path.split('/');
  if (first === 'parts' && third !== undefined) {
    const what = paths[third as keyof typeof paths];
    return parts === 1 ? what : say(HISTORY_TEXTS.ofPart, { what, number: second });
  }
  if (first === 'limits') return HISTORY_TEXTS.limits[second as keyof typeof HISTORY_TEXTS.limits];
  if (first === 'pageGroups') return say(HISTORY_TEXTS.pageGroup, { key: second });
  if (first === 'fields') return say(HISTORY_TEXTS.field, { name: second });
  return paths[first as keyof typeof paths];
}
