import { expect } from 'chai';
import pg from 'pg';
import {
  isSurveyNews,
  surveyNewsOf,
  surveyNoticeOf,
  type ForeignThing,
  type LostPage,
  type SurveyPair,
} from '@pragmatica/core';
import { eventually } from '../support/http.js';
import { startReceiver, type Receiver } from '../support/receiver.js';
import { SITE, startVisitedStage, type VisitedStage } from '../support/visited-stage.js';

const thing = (key: string, pages = 1): ForeignThing => ({
  key,
  name: key.toUpperCase(),
  pages,
  example: '/',
});
const nothing: SurveyPair = {
  before: [],
  after: [],
  lost: [],
  ignored: new Set(),
  isCut: false,
  wasCut: false,
};
const lost = (path: string, status: LostPage['status']): LostPage => ({ path, status });

describe('what is new in a site, survey by survey', () => {
  it('is what somebody else has added, unless it was said to be all right', () => {
    const news = surveyNewsOf({
      ...nothing,
      before: [thing('old')],
      after: [thing('old'), thing('small'), thing('large', 40), thing('fine', 9)],
      ignored: new Set(['fine']),
    });
    expect(news.appeared.map(({ key }) => key)).to.deep.equal(['large', 'small']);
    expect(isSurveyNews(news)).to.equal(true);
    expect(isSurveyNews(surveyNewsOf({ ...nothing, before: [thing('old')] }))).to.equal(false);
  });

  it('tells pages that are gone from those that do not answer, and claims nothing of what it did not come to', () => {
    const pages = [
      lost('/gone', 404),
      lost('/closed', 410),
      lost('/down', 503),
      lost('/dead', null),
      lost('/unlinked', undefined),
    ];
    const whole = surveyNewsOf({ ...nothing, lost: pages });
    expect(whole).to.deep.include({ gone: ['/gone', '/closed', '/unlinked'], failing: ['/down', '/dead'] });
    const further = { ...nothing, after: [thing('x')], wasCut: true };
    expect(surveyNewsOf(further).appeared, 'what may have been there before').to.deep.equal([]);
    const cut = surveyNewsOf({ ...nothing, lost: pages, isCut: true });
    expect(cut.gone).to.deep.equal(['/gone', '/closed']);
  });

  it('is said in one line, and in a message with what to do', () => {
    const of = {
      site: 'Quay',
      host: 'quay.example',
      moment: 'Sunday',
      before: 4,
      address: 'https://p.example/h',
    };
    const one = surveyNoticeOf(surveyNewsOf({ ...nothing, after: [thing('pop', 3)] }), of);
    expect(one.subject).to.equal('Quay: “POP” is new on 3 pages');
    expect(one.text)
      .to.include('The survey of quay.example on Sunday found this. Survey 4 had not.')
      .and.include('- POP: on 3 pages, such as /')
      .and.include('https://p.example/h');
    const pages = Array.from({ length: 12 }, (_, index) => lost(`/p${index}`, 404));
    const many = surveyNoticeOf(
      surveyNewsOf({ ...nothing, after: [thing('a'), thing('b')], lost: [...pages, lost('/x', null)] }),
      of,
    );
    expect(many.subject).to.equal('Quay: 2 new scripts in the pages, and 2 more things');
    expect(many.text).to.include('- /p9\n- and 2 more').and.include('Did not answer\n\n- /x');
    const alone = surveyNoticeOf(surveyNewsOf({ ...nothing, lost: [lost('/x', 500)] }), of);
    expect(alone.subject).to.equal('Quay: /x does not answer');
  });
});

describe('planned surveys', function () {
  this.timeout(120_000);
  let site: VisitedStage;
  let receiver: Receiver;
  const params = { site: SITE };
  const host = `${SITE}.localhost`;
  const page = (body: string): string =>
    `<!doctype html><html><head><title>Quay</title></head><body>${body}</body></html>`;
  const links = '<a href="/fares">Fares</a> <a href="/news">News</a>';

  before(async () => {
    receiver = await startReceiver();
    site = await startVisitedStage({ PRAGMATICA_ADDRESS: 'https://pragmatica.example/' });
    site.answers = { '/': page(links), '/fares': page('Fares'), '/news': page('News') };
    await site.stage.client.call('addWebhook', { params, body: { url: receiver.url } });
    await site.stage.client.call('setSchedule', {
      params: { ...params, host },
      body: { cron: '0 6 * * 1' },
    });
  });
  after(async () => {
    await site.close();
    receiver.server.close();
  });

  /** As if the moment had come; waits until what began then is over. */
  async function planned(count: number): Promise<void> {
    const database = new pg.Client({ connectionString: site.stage.databaseUrl });
    await database.connect();
    await database.query("update survey_schedule set next_at = now() - interval '1 minute'");
    await eventually(async () => {
      const { data } = await site.stage.client.call('listSurveys', { params, query: {} });
      expect(data.items.map(({ state }) => state)).to.deep.equal(Array(count).fill('done'));
    }, 30_000);
    await database.end();
  }
  const told = () => receiver.got.map(({ body }) => JSON.parse(body) as { type: string; data: object });

  it('tell of nothing the first time, and while nothing is new', async () => {
    await planned(1);
    await planned(2);
    expect(told()).to.deep.equal([]);
  });

  it('tell once of a script that somebody else has added and of a page that is gone', async () => {
    site.answers = {
      '/': page(`${links}<script src="http://popnudge.localhost/p.js"></script>`),
      '/fares': page('<script src="http://popnudge.localhost/p.js"></script>'),
    };
    await planned(3);
    await eventually(() => expect(told()).to.have.length(1), 15_000);
    const [message] = told();
    expect(message!.type).to.equal('pages.changed');
    expect(message!.data).to.deep.include({
      host,
      survey: 3,
      before: 2,
      gone: ['/news'],
      failing: [],
      address: `https://pragmatica.example/sites/${SITE}/survey/history`,
    });
    expect(message!.data).to.have.nested.property('appeared[0].pages', 2);
    await planned(4);
    expect(told()).to.have.length(1);
  });

  it('are no news where somebody asked for the survey', async () => {
    site.answers = { '/': page('<script src="http://another.localhost/a.js"></script>') };
    const { data } = await site.stage.client.call('startSurvey', { params, body: { host } });
    await eventually(async () => {
      const { data: survey } = await site.stage.client.call('showSurvey', {
        params: { ...params, survey: data.number },
      });
      expect(survey.state).to.equal('done');
    }, 30_000);
    expect(told()).to.have.length(1);
    // Whoever gets these messages has not seen it: the next planned one tells.
    await planned(6);
    await eventually(() => expect(told()).to.have.length(2), 15_000);
    expect(told()[1]!.data).to.deep.include({ survey: 6, before: 4, gone: ['/fares'] });
  });
});
