import { execFile } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { expect } from 'chai';
import { IntlMessageFormat } from 'intl-messageformat';
import { formatMessage } from '@pragmatica/core';
import {
  FIELD_MESSAGES,
  PROBLEM_MESSAGES,
  PROBLEM_STATUSES,
  PROBLEM_TITLES,
  ServiceError,
} from '@pragmatica/server';
import { format } from 'prettier';

const escape = (text: string): string => text.replaceAll('|', '\\|').replaceAll('<', '&lt;');

/** What docs/errors.md holds: code, status, and what is said. */
async function errorTable(): Promise<string> {
  const codes = Object.entries(PROBLEM_STATUSES).map(([code, status]) => {
    const title = PROBLEM_TITLES[code as keyof typeof PROBLEM_TITLES];
    const messages = [...PROBLEM_MESSAGES].filter(([, entry]) => entry.code === code);
    const rows = messages.map(([id, { pattern }]) => `| \`${id}\` | ${escape(pattern)} |`);
    return `## ${code} (${status})\n\n“${title}”\n\n| id | says |\n| --- | --- |\n${rows.join('\n')}\n`;
  });
  const head = `<!-- Written by the code. To write it anew: UPDATE_DOCS=1 npm test -- test/server/texts.test.ts -->

# What can go wrong

Each error says what happened and what to do. In the API each is a problem (RFC 9457). Its \`type\` is \`urn:pragmatica:problem:\` and the code,
\`title\` and status belong to the code, \`detail\` says what happened and what to do. \`message\` holds the id and the parameters
of what \`detail\` says, for clients with words of their own. Patterns are ICU MessageFormat.
`;
  return format([head, ...codes].join('\n'), {
    ...(JSON.parse(readFileSync('.prettierrc.json', 'utf8')) as object),
    parser: 'markdown',
  });
}

describe('what the service says of what goes wrong', () => {
  it('is written in patterns that can be read', () => {
    const patterns = [
      ...[...PROBLEM_MESSAGES].map(([id, { pattern }]) => [id, pattern] as const),
      ...Object.entries(FIELD_MESSAGES),
    ];
    for (const [id, pattern] of patterns)
      expect(() => new IntlMessageFormat(pattern, 'en', undefined, { ignoreTag: true }), id).not.to.throw();
  });

  it('has every id once, and words for every code', () => {
    const ids = [...PROBLEM_MESSAGES.keys()];
    expect(new Set(ids).size).to.equal(ids.length);
    const codes = new Set([...PROBLEM_MESSAGES.values()].map(({ code }) => code));
    expect([...codes].sort()).to.deep.equal(Object.keys(PROBLEM_STATUSES).sort());
  });

  it('counts and lists as people do', () => {
    const say = (count: number): string =>
      new ServiceError('errors-found', { count, title: 'A', more: count - 1 }).message;
    expect(say(1)).to.equal(
      'Nothing was published: the checks find an error. A. Fix or accept them, or publish with a reason.',
    );
    expect(say(1_200)).to.include('find 1,200 errors. A. And 1,199 more. Fix');
    const served = (environments: readonly string[]): string =>
      new ServiceError('served-already', { environments, count: environments.length, release: 1_000 })
        .message;
    expect(served(['live'])).to.equal('Nothing to publish: live already serves this draft (release 1000).');
    expect(served(['staging', 'live'])).to.equal(
      'Nothing to publish: staging and live already serve this draft (release 1000).',
    );
    expect(new ServiceError('wait-seconds', { seconds: 1 }).message).to.include('Wait 1 second,');
  });

  it('takes what others wrote as it is, whatever it means in a pattern', () => {
    const site = `{x} <b>'#' {count, plural, other {#}}`;
    expect(new ServiceError('no-such-site', { site }).message).to.equal(`There is no site "${site}".`);
    expect(formatMessage(FIELD_MESSAGES['part-not-contained'], { name: '{name}', problem: '<i>' })).to.equal(
      '“{name}”: <i>',
    );
  });

  it('is what the documents say', async () => {
    const table = await errorTable();
    if (process.env['UPDATE_DOCS']) writeFileSync('docs/errors.md', table);
    expect(readFileSync('docs/errors.md', 'utf8')).to.equal(table);
  });

  it('is taken while no module is loaded: nobody knows yet who reads it', async () => {
    const code = `
      import { speakByMoment } from '@pragmatica/core/catalogue';
      speakByMoment(() => { throw new Error('A text is taken while a module is loaded: use lazyTexts or says.'); });
      await import('@pragmatica/server');`;
    const folder = fileURLToPath(new URL('../../packages/server/', import.meta.url));
    await promisify(execFile)(process.execPath, ['--input-type=module', '-e', code], { cwd: folder });
  });
});
