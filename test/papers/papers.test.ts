import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import { expect } from 'chai';
import { format } from 'prettier';
import { REFERENCES } from './references.js';

const read = (file: string): string => readFileSync(file, 'utf8');
const PAPERS = [
  'README.md',
  'CHANGELOG.md',
  'CONTRIBUTING.md',
  ...readdirSync('docs')
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
];
const STYLE = JSON.parse(read('.prettierrc.json')) as object;

describe('the papers', function () {
  this.timeout(60_000);

  for (const [file, write] of Object.entries(REFERENCES))
    it(`${file} says what the code says`, async () => {
      const page = await format(write(), { ...STYLE, parser: 'markdown' });
      if (process.env['UPDATE_DOCS']) writeFileSync(file, page);
      expect(read(file)).to.equal(page);
    });

  it('lead somewhere: every link to a file, and to a heading in one', () => {
    const anchors = (file: string): Set<string> =>
      new Set(
        [...read(file).matchAll(/^#+ (.+)$/gm)].map(([, title]) =>
          title!
            .toLowerCase()
            .replace(/[^\p{L}\p{N} _-]/gu, '')
            .replaceAll(' ', '-'),
        ),
      );
    const broken = PAPERS.flatMap((paper) =>
      [
        ...read(paper)
          .replace(/```[^]*?```/g, '')
          .matchAll(/\]\(([^)\s]+)\)/g),
      ].flatMap(([, link]) => {
        if (/^[a-z]+:/.test(link!)) return [];
        const [path, anchor] = link!.split('#') as [string, string?];
        const file = path === '' ? paper : normalize(join(dirname(paper), path));
        const isThere = existsSync(file) && (anchor === undefined || anchors(file).has(anchor));
        return isThere ? [] : [`${paper}: ${link!}`];
      }),
    );
    expect(broken).to.deep.equal([]);
  });

  it('are all reached from the README, which is short', () => {
    const readme = read('README.md');
    expect(readme.split('\n').length).to.be.at.most(200);
    for (const paper of PAPERS) if (paper !== 'README.md') expect(readme).to.include(`](${paper})`);
  });
});
