import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { TYPE, parse, type MessageFormatElement } from '@formatjs/icu-messageformat-parser';
import type { TextTree } from '@pragmatica/core';
import { expect } from 'chai';
import { format } from 'prettier';
import { allTexts } from '../support/all-texts.js';
import { pseudoText, pseudoTranslation } from '../support/pseudo.js';

const FOLDER = 'languages';
const WRITTEN = `${FOLDER}/en.json`;
const STYLE = JSON.parse(readFileSync('.prettierrc.json', 'utf8')) as object;

/** Texts by their whole path. */
function flat(tree: TextTree, path = ''): Map<string, string> {
  return new Map(
    Object.entries(tree).flatMap(([name, entry]): [string, string][] =>
      typeof entry === 'string' ? [[path + name, entry]] : [...flat(entry as TextTree, `${path}${name} › `)],
    ),
  );
}

/** What a translation says that the code does not ask for, or leaves out. */
function problemsIn(texts: TextTree): string[] {
  const written = flat(allTexts());
  const translated = flat(texts);
  return [
    ...[...written.keys()].filter((path) => !translated.has(path)).map((path) => `${path} is missing`),
    ...[...translated].flatMap(([path, text]) => {
      const original = written.get(path);
      if (original === undefined) return [`${path} is not a text`];
      const [has, needs] = [namesIn(text), namesIn(original)];
      return has === needs ? [] : [`${path} has the names “${has}” instead of “${needs}”`];
    }),
  ];
}

/** The names in braces, in order of the alphabet. Texts with braces of their own are said as they are. */
function namesIn(text: string): string {
  const names = new Set<string>();
  const collect = (elements: readonly MessageFormatElement[]): void => {
    for (const element of elements) {
      if (element.type === TYPE.literal || element.type === TYPE.pound) continue;
      names.add(element.value);
      if (element.type === TYPE.plural || element.type === TYPE.select)
        for (const option of Object.values(element.options)) collect(option.value);
    }
  };
  try {
    collect(parse(text, { ignoreTag: true }));
  } catch {
    return '';
  }
  return [...names].sort().join(', ');
}

describe('languages', () => {
  it('en.json has every text as the code has it', async () => {
    const file = await format(JSON.stringify({ tag: 'en', texts: allTexts() }), { ...STYLE, parser: 'json' });
    if (process.env['UPDATE_DOCS']) writeFileSync(WRITTEN, file);
    expect(readFileSync(WRITTEN, 'utf8')).to.equal(file);
  });

  for (const name of readdirSync(FOLDER).filter((file) => file.endsWith('.json')))
    it(`${name} has all texts, and the names that they fill in`, () => {
      const { texts } = JSON.parse(readFileSync(`${FOLDER}/${name}`, 'utf8')) as { texts: TextTree };
      expect(problemsIn(texts)).to.deep.equal([]);
    });

  it('the language of the tests changes every letter, keeps every name, and is longer', () => {
    expect(pseudoText('{count, plural, one {# page} other {# pages}} of “{site}”')).to.equal(
      '{count,plural,one{# ƥȧɠḗḗḗ} other{# ƥȧɠḗşşş}} ǿƒƒ “{site}”',
    );
    expect(problemsIn(pseudoTranslation(allTexts()).texts)).to.deep.equal([]);
  });

  it('tells what a translation lacks, what it has too much, and which name it has lost', () => {
    const { texts } = pseudoTranslation(allTexts());
    const own = { ...(texts['console.common'] as TextTree), somePages: 'all', more: 'more' };
    const { close: _, ...rest } = own as typeof own & { close: string };
    expect(problemsIn({ ...texts, 'console.common': rest })).to.deep.equal([
      'console.common › close is missing',
      'console.common › somePages has the names “” instead of “count, shown”',
      'console.common › more is not a text',
    ]);
  });
});
