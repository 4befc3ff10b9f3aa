import { expect } from 'chai';
import {
  containmentProblem,
  factWords,
  placementOfStatement,
  readCode,
  suggestParts,
} from '@pragmatica/core';
import { CORPUS } from '../corpus/corpus.js';

describe('where code goes', () => {
  describe('by what the provider says', () => {
    const said: readonly [statement: string, placement: string | undefined][] = [
      ['Paste this code as high in the <head> of the page as possible.', 'head-start'],
      ['This must be the first script in the head.', 'head-start'],
      ['right after the opening <head> tag', 'head-start'],
      ['just before the head closes', 'head-end'],
      ['just before the closing &lt;/head&gt; tag', 'head-end'],
      ['Insert in the head section', 'head-end'],
      ['Add the code between <head> and </head>.', 'head-end'],
      ['Paste this immediately after the opening <body> tag.', 'body-start'],
      ['right after the body opens', 'body-start'],
      ['just above the closing body tag', 'body-end'],
      ['Place it directly before the closing </body> tag.', 'body-end'],
      ['at the bottom of the page', 'body-end'],
      ['in the footer', 'body-end'],
      ['on the page where you want it to show', undefined],
      ['', undefined],
    ];
    for (const [statement, placement] of said)
      it(statement === '' ? 'which may be nothing' : `“${statement}”`, () =>
        expect(placementOfStatement(statement)).to.equal(placement),
      );

    it('for each of two pieces what is said of it', () => {
      const code =
        '<script async src="https://crateline.example/c.js?id=CR-1-2"></script>\n<noscript><iframe src="https://crateline.example/n.html?id=CR-1-2"></iframe></noscript>';
      const statement =
        'Paste this code as high in the head of the page as possible. Additionally, paste this code immediately after the opening body tag.';
      expect(suggestParts(code, statement).map((part) => [part.placement, part.statement])).to.deep.equal([
        ['head-start', 'Paste this code as high in the head of the page as possible.'],
        ['body-start', 'Additionally, paste this code immediately after the opening body tag.'],
      ]);
      expect(
        suggestParts(code, 'as high in the head as possible').map((part) => part.statement),
      ).to.deep.equal(['as high in the head as possible', '']);
    });

    it('as the corpus’s own statements mean it', () => {
      for (const { statement, placement } of CORPUS)
        if (statement !== undefined) expect(placementOfStatement(statement), statement).to.equal(placement);
    });
  });

  it('by what it is and needs', () => {
    const place = (code: string): string => suggestParts(code)[0]!.placement;
    expect(place('<script src="https://biscuitkeel.example/consent.js"></script>')).to.equal('head-start');
    expect(place('<style>a { color: red }</style>')).to.equal('head-end');
    expect(place('<script>document.querySelector(".quay").remove()</script>')).to.equal('body-end');
    expect(place('<noscript><img src="https://x.example/a.gif" alt=""></noscript>')).to.equal('body-start');
    expect(suggestParts('  ')).to.deep.equal([]);
  });

  it('never in the head for what shows something, whatever is said', () => {
    const [part] = suggestParts('<div>Works on the slip</div>', 'in the head');
    expect(part!.placement).to.equal('body-end');
  });

  it('in two parts for two pieces that were pasted together, with nothing lost', () => {
    const script = '<!-- a --><script async src="https://crateline.example/crate.js?id=CR-1"></script>';
    const frame = '<noscript><iframe src="https://crateline.example/n.html?id=CR-1"></iframe></noscript>';
    const parts = suggestParts(`${script}\n\n${frame}`);
    expect(parts.map(({ code }) => code)).to.deep.equal([script, frame]);
    expect(parts[1]!.placement).to.equal('body-start');
    expect(suggestParts(`${script}${frame.replace('iframe', 'p').replace('/iframe', '/p')}`)).to.have.length(
      1,
    );
  });

  it('where it leaves the page as it is, for every good snippet', () => {
    const bad = new Set(['an unclosed tag', 'an unclosed script', 'typographic quotes']);
    for (const { name, code } of CORPUS) {
      if (bad.has(name) || readCode(code).language !== 'markup') continue;
      for (const part of suggestParts(code))
        expect(containmentProblem(part.code, part.placement), `${name}: ${part.placement}`).to.equal(
          undefined,
        );
    }
  });
});

describe('facts in words', () => {
  it('are sentences for people, with no empty section', () => {
    for (const { name, code } of CORPUS) {
      const words = factWords(readCode(code));
      expect(words[0]?.title, name).to.equal('What it is');
      for (const { lines } of words) {
        expect(lines, name).not.to.deep.equal([]);
        for (const line of lines) expect(line, name).not.to.match(/undefined|\[object/);
      }
    }
  });

  it('say when the page waits, what is a guess, and what is only for browsers without scripts', () => {
    const all = (code: string): string =>
      factWords(readCode(code))
        .flatMap(({ lines }) => lines)
        .join('\n');
    expect(all('<script src="https://x.example/a.js"></script>')).to.include('the page waits for it');
    expect(all('<noscript><img src="https://x.example/a.gif"></noscript>')).to.include('without scripts');
    expect(all('<script>document.write("x")</script>')).to.include('while it loads');
    expect(all('<script>window.a && a()</script>')).to.include('checks that this exists first');
  });
});
