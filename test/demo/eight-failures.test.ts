import { expect } from 'chai';
import { localhostFetch } from '@pragmatica/contract/node';
import { EIGHT_FAILURES, STRICT_PAGE } from '@pragmatica/demo';
import { startStage, type Stage } from '../support/stage.js';
import { visitSite } from '../support/visits.js';

describe('eight failures of the demo’s providers at once', function () {
  this.timeout(240_000);
  let stage: Stage;

  before(async () => {
    stage = await startStage({ hasWorker: true });
    for (const [key, how] of Object.entries(EIGHT_FAILURES))
      await localhostFetch(`http://${key}.localhost:${stage.providerPort}/misbehave?how=${how.join()}`, {
        method: 'POST',
      });
  });

  after(() => stage.close());

  it('are found and named by one run, and nobody else is blamed', async () => {
    const { summary } = await visitSite(stage.client, 'skerrywick', {
      pages: ['/', '/booking', STRICT_PAGE],
      devices: ['desktop'],
    });
    const causes = Object.fromEntries(
      summary.snippets.map(({ snippet, problems }) => [
        snippet,
        [
          ...new Set(
            problems
              .filter(({ at }) => at.some(({ path }) => path !== STRICT_PAGE))
              .map(({ cause }) => cause.id),
          ),
        ],
      ]),
    );
    const named = (snippet: string): readonly string[] => causes[snippet] ?? [];
    expect(named('booking-button'), 'slow').to.deep.equal(['slow']);
    expect(named('booking-pixel'), 'exception').to.deep.equal(['exception']);
    expect([...named('newsletter-form')].sort(), 'unregistered').to.deep.equal(['held-up', 'provider-says']);
    expect(named('cookie-question'), 'dismissed').to.deep.equal(['nothing-shown']);
    expect(
      summary.covered.some(({ by }) => by.snippet === 'summer-offer'),
      'covers',
    ).to.equal(true);
    const before = summary.stages.find(({ stage: one }) => one === 'before')!.disclosures;
    expect(
      before
        .filter(({ stored }) => stored.length > 0)
        .map(({ snippet, stored }) => [snippet, stored[0]!.key]),
      'early',
    ).to.deep.equal([['summer-offer', 'nudgelet-visitor']]);
    const [doubled] = summary.doubled;
    expect(new URL(doubled!.url).pathname, 'doubles').to.equal('/count.js');
    expect(doubled!.sources.map(({ snippet }) => snippet).sort()).to.deep.equal([
      'tag-container',
      'visit-counter',
    ]);
    const strict = summary.snippets.flatMap(({ problems }) =>
      problems.filter(({ at }) => at.some(({ path }) => path === STRICT_PAGE)).map(({ cause }) => cause.id),
    );
    expect(strict, 'policy').to.include('blocked-by-policy');
    expect(named('visit-counter')).to.deep.equal([]);
    expect(named('tag-container')).to.deep.equal([]);
  });

  it('are over once the providers behave again', async () => {
    for (const key of Object.keys(EIGHT_FAILURES)) {
      const answer = await localhostFetch(`http://${key}.localhost:${stage.providerPort}/misbehave?how=`, {
        method: 'POST',
      });
      expect(((await answer.json()) as { how: unknown }).how).to.deep.equal([]);
    }
  });
});
