import {
  MAX_ATTEMPTS,
  PAGES,
  confirmed,
  isNews,
  isOfRelease,
  knownAfter,
  newsOf,
  newsWords,
  noticeOf,
  retryAfterS,
  standingWords,
  standingsOf,
  type Cause,
  type KnownStanding,
  type Responsible,
  type RoundSummary,
  type Rung,
  type SnippetStanding,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';

const cause = (id: string, who: Responsible = 'provider', message = `Because of ${id}.`): Cause => ({
  ...{ id, message, who },
  advice: 'Do something.',
  evidence: [],
});
const well = (snippet: string): SnippetStanding => ({ snippet, name: snippet, state: 'well', losses: [] });
const lost = (
  snippet: string,
  id = 'x',
  at: Rung = 'loaded',
  who: Responsible = 'provider',
): SnippetStanding => ({
  ...{ snippet, name: snippet },
  state: 'lost',
  losses: [{ at, cause: cause(id, who), paths: [] }],
});
const waits = (snippet: string): SnippetStanding => ({ ...well(snippet), state: 'waiting' });

type Summed = RoundSummary['snippets'][number];
const summed = (snippet: string, more: Partial<Summed> = {}): Summed => ({
  ...{ snippet, name: snippet },
  devices: [{ device: 'phone', loads: 1, rungs: {} as never }],
  problems: [],
  intruder: null,
  leftOut: null,
  ...more,
});

describe('how snippets stand after a round', () => {
  const stand = (...snippets: Summed[]) => standingsOf({ snippets, failed: [] }, 3).slice(1);

  it('is well, lost, waiting or not expected', () => {
    const problem = (rung: Rung, path?: string) => ({
      ...{ rung, cause: cause(rung) },
      at: path === undefined ? [] : [{ visit: 1, load: 0, path, device: 'phone' as const }],
    });
    const found = stand(
      summed('a'),
      summed('b', { problems: [problem('shown', '/x'), problem('loaded')] }),
      summed('c', { devices: [{ device: 'phone', loads: 0, rungs: {} as never }] }),
      summed('d', { devices: [] }),
      summed('e', { devices: [], intruder: { message: 'Here though.', advice: 'Out.', at: [] } }),
    );
    expect(found.map(({ state }) => state)).to.deep.equal(['well', 'lost', 'waiting', 'left-out', 'lost']);
    // The lowest rung is the one to begin with.
    expect(found[1]!.losses[0]!.at).to.equal('loaded');
    expect(found[4]!.losses[0]!.at).to.equal('out-of-reach');
    expect(found.map(standingWords)).to.deep.equal([
      'Works.',
      'Because of loaded. On /x: Because of shown.',
      'Waits for something that no visit did.',
      'Not expected on any page that was visited.',
      'Here though.',
    ]);
  });

  it('has the pages themselves beside the snippets', () => {
    const failed = ['/', '/a', '/b', '/c', '/c'].map((path, visit) => ({
      ...{ path, visit },
      failure: 'timeout' as const,
    }));
    const [pages] = standingsOf({ snippets: [], failed }, 9);
    expect(pages).to.deep.include({ snippet: PAGES, state: 'lost' });
    expect(pages!.losses[0]!.cause.message).to.equal(
      '4 pages could not be opened, of 9 visits: /, /a, /b and 1 more.',
    );
  });
});

describe('news of a site', () => {
  it('is what changed since anybody was told, one entry for one cause', () => {
    const news = newsOf(knownAfter([well('a'), well('b'), lost('c'), lost('d', 'y')]), [
      lost('a'),
      lost('b'),
      well('c'),
      lost('d', 'y'),
      lost('e', 'z', 'ran'),
    ]);
    expect(
      news.lost.map(({ at, causeId, snippets }) => [at, causeId, snippets.map((one) => one.snippet)]),
    ).to.deep.equal([
      ['loaded', 'x', ['a', 'b']],
      ['ran', 'z', ['e']],
    ]);
    expect(news.lost.flatMap(({ snippets }) => snippets.map((one) => one.hasWorked))).to.deep.equal([
      true,
      true,
      false,
    ]);
    expect(news.back).to.deep.equal([{ snippet: 'c', name: 'c' }]);
    expect(newsWords(news)).to.equal('2 snippets no longer load, and 2 more things');
  });

  it('is a second cause besides one that is known', () => {
    const both: SnippetStanding = { ...lost('a'), losses: [...lost('a').losses, ...lost('a', 'y').losses] };
    expect(newsOf(knownAfter([lost('a')]), [both]).lost.map(({ causeId }) => causeId)).to.deep.equal(['y']);
    expect(isNews(newsOf(knownAfter([both]), [lost('a')]))).to.equal(false);
    expect(newsOf(knownAfter([both]), [well('a')]).back).to.have.length(1);
  });

  it('is another cause at the same rung, and none where nothing is expected any more', () => {
    expect(isNews(newsOf(knownAfter([lost('a')]), [lost('a', 'other')]))).to.equal(true);
    expect(isNews(newsOf(knownAfter([lost('a')]), [waits('a')]))).to.equal(false);
    expect(isNews(newsOf(knownAfter([lost('a')]), []))).to.equal(false);
  });

  it('needs two looks before something is lost, and one before it is back', () => {
    const known = knownAfter([well('a'), well('b'), lost('c')]);
    const first = knownAfter([lost('a'), well('b'), lost('c')]);
    const second = [lost('a'), lost('b'), well('c')];
    const sure = confirmed(first, second, known);
    expect(sure.map(({ losses }) => losses.length)).to.deep.equal([1, 0, 0]);
    expect(knownAfter(sure).find(({ snippet }) => snippet === 'b')).to.deep.equal({
      snippet: 'b',
      losses: [],
    });
    const { lost: losses, back } = newsOf(known, sure);
    expect([losses.length, back.length]).to.deep.equal([1, 1]);
  });

  it('is silent once told, whatever it was', () => {
    const standing = fc.constantFrom(well, lost, waits, (key: string) => lost(key, 'y', 'ran'));
    const round = fc
      .uniqueArray(fc.constantFrom('a', 'b', 'c', 'd'))
      .chain((keys) => fc.tuple(...keys.map((key) => standing.map((make) => make(key)))));
    fc.assert(
      fc.property(round, round, (before, now) => {
        const known: readonly KnownStanding[] = knownAfter(before);
        expect(isNews(newsOf(knownAfter(now), now))).to.equal(false);
        // And what is lost now is told, or was known as just that.
        const news = newsOf(known, now);
        for (const { snippet, losses } of now)
          for (const { at, cause: why } of losses) {
            const isTold = news.lost.some((one) => one.snippets.some((own) => own.snippet === snippet));
            const wasKnown = known
              .find((one) => one.snippet === snippet)
              ?.losses.some((one) => one.at === at && one.causeId === why.id);
            expect(isTold).to.equal(wasKnown !== true);
          }
      }),
    );
  });

  it('takes a release back only for what worked before, and is not the provider’s doing', () => {
    const of = (before: readonly SnippetStanding[], now: SnippetStanding) =>
      isOfRelease(newsOf(knownAfter(before), [now]));
    expect(of([well('a')], lost('a', 'x', 'ran', 'you'))).to.equal(true);
    expect(of([well('a')], lost('a', 'x', 'ran', 'unknown'))).to.equal(true);
    expect(of([well('a')], lost('a', 'x', 'ran', 'provider'))).to.equal(false);
    expect(of([], lost('a', 'x', 'ran', 'you'))).to.equal(false);
    expect(of([lost('a')], well('a'))).to.equal(false);
  });
});

describe('a notice', () => {
  const of = {
    site: 'Quay',
    host: 'quay.example',
    moment: 'Sunday 29 November at 06:00',
    address: 'https://console.example/x',
  };
  const news = newsOf(knownAfter([well('Shop chat'), lost('Counter')]), [lost('Shop chat'), well('Counter')]);

  it('says what, where, why, what to do and who can', () => {
    const { subject, text } = noticeOf(news, { ...of, release: null, former: null, putBack: null });
    expect(subject).to.equal('Quay: “Shop chat” no longer loads, and one more thing');
    for (const part of [
      'quay.example saw this on Sunday 29 November at 06:00.',
      '- Shop chat: Because of x.',
      'What to do: Do something.',
      'Who can: the provider',
      'Works again\n\n- Counter',
      'https://console.example/x',
    ])
      expect(text).to.include(part);
    expect(text).not.to.include('was restored').and.not.to.include('null');
  });

  it('says which release was put back, or can be', () => {
    const done = noticeOf(news, { ...of, release: 12, former: 11, putBack: 'done' });
    expect(done.text).to.include('after release 12 was published').and.include('Release 11 was restored');
    const offered = noticeOf(news, { ...of, release: 12, former: 11, putBack: 'offered' });
    expect(offered.text).to.include('With release 11 this worked');
  });

  it('is tried again later and later, and then given up', () => {
    const waits = Array.from({ length: MAX_ATTEMPTS }, (_, index) => retryAfterS(index + 1));
    expect(waits.at(-1)).to.equal(undefined);
    const times = waits.slice(0, -1) as number[];
    expect(times).to.deep.equal([...times].sort((a, b) => a - b));
    expect(times.reduce((sum, one) => sum + one, 0)).to.be.within(24 * 3600, 48 * 3600);
  });
});
