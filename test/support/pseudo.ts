import { TYPE, parse, type MessageFormatElement } from '@formatjs/icu-messageformat-parser';
import { printAST } from '@formatjs/icu-messageformat-parser/printer.js';
import type { TextTree, Translation } from '@pragmatica/core';
import { mapTexts } from './all-texts.js';

const ENGLISH = 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ';
/** Letters that read like those of English and are none of them. */
const OTHERS = 'ȧƀƈḓḗƒɠħīĵķŀḿƞǿƥɋřşŧŭṽẇẋẏẑȦƁƇḒḖƑƓĦĪĴĶĿḾȠǾƤɊŘŞŦŬṼẆẊẎẐ';

/** As much longer as words of other languages are. */
const LONGER = 0.4;

/** All texts in letters that nothing else is written in, 40 % longer: what is read in others is in no catalogue. */
export function pseudoTranslation(texts: TextTree): Translation {
  return { tag: 'en-x-pseudo', texts: mapTexts(texts, pseudoText) };
}

/** @param text - ICU MessageFormat, or a text with braces of its own that is said as it is */
export function pseudoText(text: string): string {
  try {
    const elements = parse(text, { ignoreTag: true }).map(pseudoElement);
    // eslint-disable-next-line @typescript-eslint/no-unsafe-enum-assignment -- the package declares one enum twice
    return printAST(elements);
  } catch {
    return longer(accented(text));
  }
}

function pseudoElement(element: MessageFormatElement): MessageFormatElement {
  if (element.type === TYPE.literal) return { ...element, value: longer(accented(element.value)) };
  if (element.type === TYPE.plural || element.type === TYPE.select)
    return {
      ...element,
      options: Object.fromEntries(
        Object.entries(element.options).map(([name, option]) => [
          name,
          { ...option, value: option.value.map(pseudoElement) },
        ]),
      ),
    };
  return element;
}

function accented(text: string): string {
  return text.replace(/[a-z]/gi, (letter) => OTHERS[ENGLISH.indexOf(letter)]!);
}

/** Each word drawn out by its vowels, so that sentences still break where they did. */
function longer(text: string): string {
  return text.replace(/\p{L}+/gu, (word) => {
    const more = Math.round(word.length * LONGER);
    return word + (word.at(-1) ?? '').toLowerCase().repeat(more);
  });
}
