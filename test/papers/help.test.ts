import { readFileSync, readdirSync } from 'node:fs';
import { CHECKS } from '@pragmatica/core';
import { PROBLEM_STATUSES } from '@pragmatica/server';
import { expect } from 'chai';
import { HELP_PAGES } from '../../packages/console/src/views/help/pages.js';
import { sectionsOf } from '../../packages/console/src/views/help/sections.js';

const SOURCE = 'packages/console/src';

/** For whoever writes here, not for whoever manages sites. */
const NOT_HELP = ['writing'];

const read = (page: string): string => readFileSync(`docs/${page}.md`, 'utf8');
const anchors = new Set(HELP_PAGES.flatMap((page) => sectionsOf(page, read(page)).map(({ id }) => id)));

describe('the help of the console', () => {
  it('has every document', () => {
    const written = readdirSync('docs').flatMap((file) => /^(.+)\.md$/.exec(file)?.[1] ?? []);
    expect([...HELP_PAGES, ...NOT_HELP].sort()).to.deep.equal(written.sort());
  });

  it('has a place for each check and each error, to which findings and refusals lead', () => {
    const wanted = [
      ...CHECKS.map(({ id }) => `checks#${id}`),
      ...Object.entries(PROBLEM_STATUSES).map(([code, status]) => `errors#${code}-${status}`),
    ];
    expect(wanted.filter((id) => !anchors.has(id))).to.deep.equal([]);
  });

  it('has the place of each sign beside a field', () => {
    const files = readdirSync(SOURCE, { recursive: true, encoding: 'utf8' }).filter((file) =>
      file.endsWith('.tsx'),
    );
    const led = files.flatMap((file) =>
      [...readFileSync(`${SOURCE}/${file}`, 'utf8').matchAll(/(?:<HelpLink\s+to|\bhelp)="([^"]+)"/g)].map(
        ([, to]) => to!,
      ),
    );
    expect(led).to.have.length.above(6);
    expect(led.filter((to) => !anchors.has(to))).to.deep.equal([]);
  });

  it('reads a page by its headings, but not those of code', () => {
    const page =
      '# A page\n\nWords.\n\n## `one-two` ([it](x.md))\n\n```\n# no heading\n```\n\n## One\n\n### One\n';
    expect(sectionsOf('page', page).map(({ id, title, text }) => [id, title, text])).to.deep.equal([
      ['page', 'A page', 'Words.'],
      ['page#one-two-it', 'one-two (it)', 'no heading'],
      ['page#one', 'One', ''],
      ['page#one-1', 'One', ''],
    ]);
  });
});
