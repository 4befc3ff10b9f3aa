import {
  findBlocks,
  parseWeekly,
  pasteBlocks,
  type Box,
  type BoxKind,
  type Snapshot,
} from '@pragmatica/core';
import { expect } from 'chai';
import { MONDAY_TEN, part, set, snippet } from '../support/sets.js';

const BOX: Record<BoxKind, Box> = {
  'site-head': { kind: 'site-head', name: 'Head code' },
  'site-foot': { kind: 'site-foot', name: 'Foot code' },
  'page-head': { kind: 'page-head', name: 'Page settings, head' },
  'page-content': { kind: 'page-content', name: 'Code block' },
};
const PAGES = ['/', '/fares', '/booking', '/booking/done'];

function blocksOf(snapshot: Snapshot, ...boxes: readonly (BoxKind | Box)[]) {
  return pasteBlocks(snapshot, {
    environment: 'live',
    boxes: boxes.map((box) => (typeof box === 'string' ? BOX[box] : box)),
    release: 12,
    pages: PAGES,
    now: MONDAY_TEN,
  });
}
/** Which parts are in which block: `site-head: a/1 b/1`. */
function drawn({ blocks }: ReturnType<typeof pasteBlocks>): string[] {
  return blocks.map(
    ({ box, page, parts }) => `${box.kind}${page ?? ''}: ${parts.map(({ key }) => key).join(' ')}`,
  );
}
const A = snippet('a', { parts: [part('head-start', 0, '<script>a()</script>')] });
const END = snippet('end', { parts: [part('body-end', 0, '<script>end()</script>')] });
const IN_BOX = snippet('inside', {
  parts: [part({ anchor: 'x', side: 'inside' }, 0, '<b>x</b>')],
  pages: { include: ['/booking'], exclude: [] },
});
const FARES = snippet('fares', {
  parts: [part('head-end', 0, '<script>f()</script>')],
  pages: { include: ['/fares', '/booking/*'], exclude: [] },
});

describe('blocks to paste', () => {
  it('hold parts as they are where nothing is asked of them, in order, marked', () => {
    const { blocks, left } = blocksOf(
      set(A, END, snippet('off', { state: 'off' })),
      'site-head',
      'site-foot',
    );
    expect(left).to.deep.equal([]);
    expect(blocks.map(({ text }) => text.replace(/[0-9a-f]{12}/g, 'D'))).to.deep.equal([
      '<!-- Pragmatica s release 12 site-head D -->\n<script>a()</script>\n<!-- /Pragmatica D -->',
      '<!-- Pragmatica s release 12 site-foot D -->\n<script>end()</script>\n<!-- /Pragmatica D -->',
    ]);
  });

  it('are as few as can be: what is for some pages is asked for in the box for all', () => {
    const made = blocksOf(set(A, FARES), 'site-head', 'page-head');
    expect(drawn(made)).to.deep.equal(['site-head: a/1 fares/1']);
    expect(made.blocks[0]!.text).to.include('document.pgmIf').and.not.include('\n<script>f()');
  });

  it('are one for each page where there is no box for all', () => {
    const made = blocksOf(set(A, FARES), 'page-head');
    expect(drawn(made)).to.deep.equal([
      'page-head/: a/1',
      'page-head/booking: a/1',
      'page-head/booking/done: a/1 fares/1',
      'page-head/fares: a/1 fares/1',
    ]);
    for (const { text } of made.blocks) expect(text, 'the page is the right one').not.to.include('pgmIf');
  });

  it('stand in the content where an element is meant, or are put there by a script from the foot', () => {
    expect(drawn(blocksOf(set(IN_BOX), 'page-content', 'site-foot'))).to.deep.equal([
      'page-content/booking: inside/1',
    ]);
    const moved = blocksOf(set(END, IN_BOX), 'site-foot');
    expect(drawn(moved)).to.deep.equal(['site-foot: inside/1 end/1']);
    expect(drawn(blocksOf(set(END), 'site-head')), 'no foot box').to.deep.equal(['site-head: end/1']);
  });

  it('leave out what no box can take, and say what to do', () => {
    const messageOf = (snapshot: Snapshot, ...boxes: readonly (BoxKind | Box)[]): string =>
      blocksOf(snapshot, ...boxes)
        .left.map(({ message }) => message)
        .join();
    expect(messageOf(set(A), 'site-foot')).to.match(
      /^“A” goes at the start of the head, but there is no box for the head\./,
    );
    expect(messageOf(set(END))).to.match(/there is no box that reaches there/);
    expect(messageOf(set(A), { ...BOX['site-head'], stripsScripts: true })).to.match(
      /needs a script there, which the box strips out/,
    );
    const many = pasteBlocks(set(A), {
      ...{ environment: 'live', boxes: [BOX['page-head']], release: 1, now: MONDAY_TEN },
      pages: Array.from({ length: 31 }, (_, i) => `/${i}`),
    });
    expect(many.left[0]!.message).to.match(/pasted into 31 pages one by one; 30 are the most/);
  });

  it('take markup into a box that strips scripts, but nothing that asks something', () => {
    const strict = { ...BOX['site-foot'], stripsScripts: true };
    const plain = snippet('plain', { parts: [part('body-end', 0, '<p>hello</p>')] });
    expect(drawn(blocksOf(set(plain), strict))).to.deep.equal(['site-foot: plain/1']);
    const later = { ...plain, limits: { visitor: { afterSeconds: 5 } } };
    expect(blocksOf(set(later), strict).left).to.have.length(1);
    expect(
      blocksOf(set({ ...plain, pages: { include: ['/fares'], exclude: [] } }), strict).left,
    ).to.have.length(1);
  });

  it('say how much too long they are, and how long their opening hours are right', () => {
    const hours = { weekly: parseWeekly('mon 09:00-17:00') };
    const { blocks } = blocksOf(set({ ...END, limits: { hours } }), { ...BOX['site-foot'], maxLength: 500 });
    expect(blocks[0]!.tooLongBy).to.equal(blocks[0]!.text.length - 500);
    const days = (blocks[0]!.hoursUntil! - MONDAY_TEN) / 86_400_000;
    expect(days).to.be.within(220, 400);
    const again = pasteBlocks(set({ ...END, limits: { hours } }), {
      ...{ environment: 'live', boxes: [BOX['site-foot']], release: 12, pages: [] },
      now: MONDAY_TEN + 60_000,
    });
    expect(again.blocks[0]!.text, 'the same a minute later').to.equal(blocks[0]!.text);
  });

  it('never end the script that they stand in', () => {
    const nasty = snippet('n', {
      parts: [part('body-end', 0, '<script>"<!--<script>"</script>')],
      pages: { include: ['/fares'], exclude: [] },
    });
    const moved = snippet('m', { parts: [part('body-start', 0, '<script>m()</script>')] });
    const { text } = blocksOf(set(nasty, moved), 'site-foot').blocks[0]!;
    expect(text.match(/<\/script/g)).to.have.length(2);
    expect(text.match(/<!--/g), 'its marks').to.have.length(2);
  });
});

describe('pasted blocks in a page', () => {
  const { text } = blocksOf(set(A), 'site-head').blocks[0]!;
  const states = (html: string): string[] =>
    findBlocks(html).map(({ site, release, box, state }) => `${site} ${release} ${box} ${state}`);

  it('are known by their marks: whole, altered, cut off, or there twice', () => {
    expect(states(`<head>${text}</head>`)).to.deep.equal(['s 12 site-head whole']);
    expect(states(`<head>${text.replaceAll('\n', ' \r\n\t')}</head>`), 'white space').to.deep.equal([
      's 12 site-head whole',
    ]);
    expect(states(text.replace('a()', 'b()'))).to.deep.equal(['s 12 site-head altered']);
    expect(states(text.replace(/<script>.*<\/script>/, ''))).to.deep.equal(['s 12 site-head altered']);
    expect(states(text.slice(0, -10))).to.deep.equal(['s 12 site-head cut']);
    expect(states(text.replace('release 12', 'release 9') + text)).to.deep.equal([
      's 9 site-head whole',
      's 12 site-head whole',
    ]);
    expect(states(text.slice(0, -10) + text)).to.deep.equal(['s 12 site-head cut', 's 12 site-head whole']);
  });

  it('are marked with elements where comments are stripped', () => {
    const [block] = blocksOf(set(A), { ...BOX['site-head'], stripsComments: true }).blocks;
    expect(block!.text).to.match(/^<meta name="generator" content="Pragmatica s release 12/);
    expect(states(block!.text)).to.deep.equal(['s 12 site-head whole']);
  });

  it('are told from what only looks like one', () => {
    expect(
      states('<!-- Pragmatica --><!-- Pragmatica s release x --><!-- /Pragmatica abc -->'),
    ).to.deep.equal([]);
  });
});
