import { expect } from 'chai';
import { expectationOf, neededVisits, parseWeekly, type VisitStep } from '@pragmatica/core';
import { part, set, snippet } from '../support/sets.js';
import { QUIET } from '../support/evidence.js';
import { SITE, plain, startVisitedStage, type VisitedStage } from '../support/visited-stage.js';

describe('somebody who comes back', () => {
  const code = '<script>window.a = 1</script>';
  const rare = (key: string, everyDays: number) =>
    snippet(key, { parts: [part('head-end', 0, code)], limits: { visitor: { everyDays } } });
  const steps = (...rhythms: number[]): readonly VisitStep[] | undefined =>
    neededVisits(set(...rhythms.map((days, index) => rare(`s${index}`, days))), { path: '/', now: 0 }).find(
      ({ script }) => script.steps.some((step) => step.do === 'return'),
    )?.script.steps;
  const told = (found: readonly VisitStep[] = []): string[] =>
    found.map((step) => (step.do === 'return' ? `return ${step.days}` : step.do));

  it('comes when something must not come yet, and when it must come again', () => {
    expect(told(steps(7))).to.deep.equal(['open', 'return 1', 'return 6']);
    expect(told(steps(1))).to.deep.equal(['open', 'open', 'return 1']);
    expect(told(steps(1, 3, 7))).to.deep.equal(['open', 'open', 'return 1', 'return 6']);
  });

  it('is expected to get what comes once in so many days on just those days', () => {
    const served = set(rare('daily', 1), rare('weekly', 7));
    const place = { host: 'x.example', environment: 'live' } as const;
    const script = { device: 'phone', steps: [] } as const;
    const came = new Map<string, number>();
    const runs = (day: number): string[] => {
      const { snippets } = expectationOf(served, place, script, { ...QUIET, day }, came);
      const running = snippets.filter(({ expected }) => expected === 'runs').map(({ snippet: key }) => key);
      for (const key of running) came.set(key, day);
      return running;
    };
    expect(runs(0)).to.deep.equal(['daily', 'weekly']);
    expect(runs(0)).to.deep.equal([]);
    expect(runs(1)).to.deep.equal(['daily']);
    expect(runs(6)).to.deep.equal(['daily']);
    expect(runs(7)).to.deep.equal(['daily', 'weekly']);
    expect(runs(8)).to.deep.equal(['daily']);
  });

  it('sees opening hours as their own clock does, where that decides', () => {
    const hours = { weekly: parseWeekly('tue 00:00-24:00') };
    const shop = snippet('shop', { parts: [part('head-end', 0, code)], limits: { hours } });
    const script = { device: 'phone', steps: [] } as const;
    // A Monday, and the day after.
    const monday = { ...QUIET, startedAt: Date.UTC(2027, 2, 1, 12), day: 1 };
    const expected = (byBrowserClock: boolean): string =>
      expectationOf(set(shop), { host: 'x.example', environment: 'live', byBrowserClock }, script, monday)
        .snippets[0]!.expected;
    expect([expected(false), expected(true)]).to.deep.equal(['left-out', 'runs']);
  });
});

describe('coming back in a real browser', function () {
  this.timeout(120_000);
  let site: VisitedStage;

  before(async () => {
    site = await startVisitedStage();
  });
  after(() => site.close());

  it('finds what comes once in seven days on the first day and the seventh, and not between', async () => {
    site.answers = {
      '/': '<!doctype html><html><head><title>Quay</title></head><body><p>Quay</p></body></html>',
    };
    await site.publish([
      plain(
        'rare',
        '<script>document.title = "came on " + new Date().getTime(); sessionStorage.setItem("s", "1");</script>',
        {
          name: 'Rare',
          limits: { visitor: { everyDays: 7 } },
        },
      ),
    ]);
    const { round, visits, summary } = await site.verify({ devices: ['phone'] });
    const back = visits.find(({ title }) => title.includes('comes back'))!;
    expect(back.title).to.equal(
      'Somebody who comes back the next day, and again 7 days after the first visit (phone)',
    );
    const { data } = await site.stage.client.call('showVisit', {
      params: { site: SITE, round: round.number, visit: back.number },
    });
    const [first, second, third] = data.loads.map(({ judged }) =>
      judged!.snippets.find(({ snippet: key }) => key === 'rare'),
    );
    expect([first!.expected, second!.expected, third!.expected]).to.deep.equal(['runs', 'waits', 'runs']);
    expect(
      data.loads.map(({ stored }) => stored.some(({ where }) => where === 'sessionStorage')),
    ).to.deep.equal([true, false, true]);
    expect(summary.isWell).to.equal(true);
  });
});
