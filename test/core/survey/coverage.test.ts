import { expect } from 'chai';
import { absentParts, coverageCsv, type Composition, type Coverage } from '@pragmatica/core';

describe('coverage', () => {
  it('is a table for spreadsheets, in which nothing is a formula', () => {
    const rows: Coverage['rows'] = [
      { section: '/=1+1', type: 'other', pages: 2, cells: { chat: { expected: 2, present: 1 } } },
      { section: '=cmd', type: 'list', pages: 1, cells: {} },
      { section: '/a,"b"', type: 'list', pages: 1, cells: {} },
    ];
    const snippets = [{ snippet: 'chat', expected: 2, present: 1, words: '' }];
    expect(coverageCsv({ rows, snippets })).to.equal(
      [
        'section,type,pages,chat expected,chat present',
        '/=1+1,other,2,2,1',
        "'=cmd,list,1,0,0",
        '"/a,""b""",list,1,0,0',
        '',
      ].join('\r\n'),
    );
  });

  it('counts the pages on which a part is not, over all makes of pages', () => {
    const made = (expected: string[], missing: string[]): Composition => ({ items: [], expected, missing });
    const groups = [
      { composition: 1, section: '/', type: 'front', pages: 1, examples: ['/'] },
      { composition: 2, section: '/news', type: 'article', pages: 7, examples: ['/news/a', '/news/b'] },
    ] as const;
    const compositions = new Map([
      [1, made(['chat/1', 'counter/1'], [])],
      [2, made(['chat/1'], ['chat/1'])],
    ]);
    expect(absentParts(groups, compositions, (part) => `code of ${part}`)).to.deep.equal([
      { part: 'chat/1', code: 'code of chat/1', expected: 8, missing: 7, examples: ['/news/a', '/news/b'] },
      { part: 'counter/1', code: 'code of counter/1', expected: 1, missing: 0, examples: [] },
    ]);
  });
});
