import { asciiLower, type WrittenTag } from './tag-attributes.js';
import type { AttributeTest, SelectorStep } from './types.js';

/** Whether a start tag has the name and the attributes of a step, wherever it stands (Selectors Level 4, 5 and 6). */
export function fitsTag({ type, tests }: SelectorStep, tag: WrittenTag, isQuirks: boolean): boolean {
  if (type !== undefined && type !== tag.name) return false;
  return tests.every((test) => {
    const value = tag.attributes.get(test.name);
    return value !== undefined && holds(test, value, isQuirks);
  });
}

const SPACE = /[\t\n\f\r ]+/;

function holds({ kind, value: wanted, folds }: AttributeTest, written: string, isQuirks: boolean): boolean {
  const fold = folds === 'always' || (folds === 'in-quirks' && isQuirks);
  const value = fold ? asciiLower(written) : written;
  const word = fold ? asciiLower(wanted) : wanted;
  switch (kind) {
    case 'exists':
      return true;
    case 'equals':
      return value === word;
    case 'word':
      return word !== '' && !SPACE.test(word) && value.split(SPACE).includes(word);
    case 'hyphen':
      return value === word || value.startsWith(`${word}-`);
    case 'start':
      return word !== '' && value.startsWith(word);
    case 'end':
      return word !== '' && value.endsWith(word);
    case 'any':
      return word !== '' && value.includes(word);
  }
}
