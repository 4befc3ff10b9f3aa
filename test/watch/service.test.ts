import type { NoticeResource, VisitRoundResource, WatchInput } from '@pragmatica/contract';
import { setWatch } from '@pragmatica/demo';
import { expect } from 'chai';
import pg from 'pg';
import { Webhook } from 'standardwebhooks';
import { eventually } from '../support/http.js';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startReceiver, type Receiver } from '../support/receiver.js';
import { startMailServer, type MailServer } from '../support/smtp.js';
import { ADMIN } from '../support/stage.js';
import { SITE, plain, startVisitedStage, type VisitedStage } from '../support/visited-stage.js';

const LONG_MS = 60_000;

describe('watching a site', function () {
  this.timeout(180_000);
  let site: VisitedStage;
  let mail: MailServer;
  let receiver: Receiver;
  let secret: string;
  let folder: string;
  let cli: RunCli;
  const params = { site: SITE };
  const PAGE = '<!doctype html><html><head><title>Quay</title></head><body><p>Quay</p></body></html>';
  const CHAT = plain('chat', '<script src="http://quaychat.localhost:PORT/c.js"></script>', {
    name: 'Shop chat',
  });
  const COUNTER = plain('counter', '<script>window.counted = 1;</script>', { name: 'Counter' });
  const chatFile =
    'document.addEventListener("DOMContentLoaded", () => { const b = document.createElement("button"); b.textContent = "Chat"; b.style.cssText = "position:fixed;right:20px;bottom:20px;width:80px;height:40px"; document.body.append(b); });';
  const well = { '/': PAGE, 'quaychat.localhost/c.js': chatFile };
  const broken = {
    '/': PAGE,
    'quaychat.localhost/c.js': (
      _: unknown,
      response: { writeHead: (status: number) => { end: () => void } },
    ) => response.writeHead(500).end(),
  };

  before(async () => {
    mail = await startMailServer();
    receiver = await startReceiver();
    site = await startVisitedStage({
      PRAGMATICA_SMTP_URL: mail.url,
      PRAGMATICA_SECOND_LOOK_S: '1',
      PRAGMATICA_ADDRESS: 'https://pragmatica.example/',
    });
    site.answers = well;
    await site.publish([CHAT, COUNTER]);
    ({
      data: { secret },
    } = await site.stage.client.call('addWebhook', { params, body: { url: receiver.url } }));
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-watch-'));
    cli = cliRunner(() => site.stage.server, folder);
    await cli(['sign-in', '--login', ADMIN.login, '--stdin'], { input: `${ADMIN.password}\n` });
  });
  after(async () => {
    rmSync(folder, { recursive: true, force: true });
    await site.close();
    await mail.close();
    receiver.server.close();
  });

  const set = (body: WatchInput) => setWatch(site.stage.client, SITE, body);
  const rounds = async (): Promise<VisitRoundResource[]> =>
    (await site.stage.client.call('listVisitRounds', { params, query: {} })).data.items;
  const notices = async (): Promise<NoticeResource[]> =>
    (await site.stage.client.call('listNotices', { params, query: {} })).data.items.filter(
      ({ subject }) => !/release \d+/.test(subject),
    );
  /** Waits until nothing is under way that began by itself. */
  const settled = (count: number): Promise<void> =>
    eventually(async () => {
      const all = (await rounds()).filter(({ reason }) => reason !== null);
      expect(all.map(({ state }) => state)).to.have.length.at.least(count);
      expect(
        all.every(({ state, isWell }) => state === 'cancelled' || (state === 'done' && isWell !== null)),
      ).to.equal(true);
    }, LONG_MS);
  /** As if the moment had come. */
  async function due(): Promise<void> {
    const database = new pg.Client({ connectionString: site.stage.databaseUrl });
    await database.connect();
    await database.query("update site_watch set next_at = now() - interval '1 minute'");
    await database.end();
  }
  /** What the program was told, but for releases: `acts.test.ts` is about these. */
  const news = () => receiver.got.filter(({ body }) => !body.includes('"type":"release.'));
  const message = (index: number) =>
    JSON.parse(news()[index]!.body) as { type: string; data: Record<string, unknown> };

  it('signs a test so that whoever gets it can check it, and mails it', async () => {
    await set({ afterPublishing: 'nothing', mailTo: ['ops@quay.example'] });
    const { data } = await site.stage.client.call('tryNotices', { params });
    expect(data.items.map(({ target }) => target)).to.have.members([receiver.url, 'ops@quay.example']);
    await eventually(async () => {
      expect((await notices()).map(({ state }) => state)).to.deep.equal(['sent', 'sent']);
    }, 15_000);
    const { headers, body } = news()[0]!;
    expect(new Webhook(secret).verify(body, headers)).to.have.property('type', 'test');
    expect(() => new Webhook(secret).verify(`${body} `, headers)).to.throw();
    expect(headers['webhook-id']).to.match(/^msg_/);
    expect(mail.mails[0]).to.deep.include({ to: ['ops@quay.example'], from: 'pragmatica@localhost' });
    expect(mail.mails[0]!.source)
      .to.match(/^Subject: Quay: a test message/m)
      .and.match(/^Auto-Submitted: auto-generated/m);
  });

  it('visits after a release by itself, and says nothing while all is well', async () => {
    await set({ afterPublishing: 'look', mailTo: ['ops@quay.example'] });
    const told = news().length;
    await site.publish([CHAT, COUNTER, plain('extra', '<script>window.extra = 1;</script>')]);
    await settled(1);
    const [round] = await rounds();
    expect(round).to.deep.include({ reason: 'release', state: 'done', isWell: true, confirms: null });
    expect(news()).to.have.length(told);
    const { data } = await site.stage.client.call('showWatchHistory', { params, query: {} });
    expect(data.rounds.map(({ number, release }) => ({ number, release }))).to.deep.equal([
      { number: round!.number, release: 2 },
    ]);
    expect(
      data.snippets.map(({ name, cells }) => [name, cells.map(({ state }) => state).join()]),
    ).to.deep.equal([
      ['The site’s pages', 'well'],
      ['Shop chat', 'well'],
      ['Counter', 'well'],
      ['extra', 'well'],
    ]);
  });

  it('tells what a provider lost once, after a second look, and when it is back', async () => {
    await set({ cron: '0 6 * * *', afterPublishing: 'put-back', mailTo: ['ops@quay.example'] });
    const told = news().length;
    const mails = mail.mails.length;
    site.answers = broken;
    await due();
    await settled(3);
    await eventually(() => expect(news()).to.have.length(told + 1), 10_000);
    const { type, data } = message(told);
    expect(type).to.equal('snippets.changed');
    expect(data).to.deep.include({ host: 'quay.localhost', putBack: null, back: [] });
    expect(data['subject']).to.equal('Quay: “Shop chat” no longer loads');
    expect(data['lost']).to.have.nested.property('[0].snippets[0].who', 'provider');
    const [second, first] = await rounds();
    expect(second).to.deep.include({ reason: 'schedule', confirms: first!.number });
    await eventually(() => expect(mail.mails).to.have.length(mails + 1), 10_000);
    expect(mail.mails.at(-1)!.source.replace(/=\r\n/g, '')).to.include(
      'https://pragmatica.example/sites/quay/check/browser/',
    );

    // The same once more is no news.
    await due();
    await settled(4);
    expect(news()).to.have.length(told + 1);
    site.answers = well;
    await due();
    await settled(5);
    await eventually(() => expect(news()).to.have.length(told + 2), 10_000);
    expect(message(told + 1).data).to.deep.include({
      subject: 'Quay: “Shop chat” works again',
      lost: [],
      back: [{ key: 'chat', name: 'Shop chat' }],
    });
  });

  it('takes a release back that broke what worked, where the site says so, and tells', async () => {
    const before = (await rounds()).length;
    const told = news().length;
    await site.publish([
      CHAT,
      {
        ...COUNTER,
        parts: [{ placement: 'head-end', code: '<script>window.counted = nowhere();</script>' }],
      },
    ]);
    // The release, a second look, and the look at what was put back.
    await settled(before + 2);
    await eventually(() => expect(news()).to.have.length.at.least(told + 2), LONG_MS);
    expect(message(told).data).to.deep.include({
      subject: 'Quay: “Counter” no longer runs without errors',
      putBack: { state: 'done', release: 2 },
    });
    expect(message(told + 1).data['subject']).to.equal('Quay: “Counter” works again');
    const { data: live } = await site.stage.client.call('showEnvironment', {
      params: { ...params, environment: 'live' },
    });
    expect(live).to.deep.include({ release: 2, changedBy: 'pragmatica' });
    const { data: trail } = await site.stage.client.call('listActivity', { params, query: {} });
    expect(trail.items[0]!.message).to.include('Automatically restored release 2 on live');
  });

  it('draws what follows from a round, though the worker that made it is gone', async () => {
    const [last] = await rounds();
    const database = new pg.Client({ connectionString: site.stage.databaseUrl });
    await database.connect();
    await database.query(
      `update visit_round set is_well = null, ended_at = now() - interval '1 minute', beat_at = now() - interval '1 minute'
       where number = $1`,
      [last!.number],
    );
    await database.end();
    const told = news().length;
    await eventually(async () => expect((await rounds())[0]!.isWell).to.equal(true), 20_000);
    const { data } = await site.stage.client.call('showWatchHistory', { params, query: {} });
    expect(
      data.snippets.map(({ cells }) => cells.filter(({ round }) => round === last!.number).length),
    ).to.satisfy((counts: readonly number[]) => counts.every((count) => count <= 1));
    expect(news()).to.have.length(told);
  });

  it('tries again when a program does not answer, gives up when it says that it is gone, and sends at a wish', async () => {
    await set({ afterPublishing: 'nothing' });
    receiver.status = 503;
    await site.stage.client.call('tryNotices', { params });
    await eventually(async () => {
      const [newest] = await notices();
      expect(newest).to.deep.include({ state: 'waiting', answer: 'It answered 503.' });
      expect(newest!.attempts).to.be.at.least(1);
    }, 15_000);
    receiver.status = 302;
    await site.stage.client.call('tryNotices', { params });
    await eventually(
      async () => expect((await notices())[0]).to.deep.include({ answer: 'It answered 302.' }),
      15_000,
    );
    receiver.status = 410;
    await site.stage.client.call('tryNotices', { params });
    await eventually(async () => expect((await notices())[0]).to.deep.include({ state: 'failed' }), 15_000);
    receiver.status = 200;
    const [gone] = await notices();
    const { data } = await site.stage.client.call('sendNotice', { params: { ...params, notice: gone!.id } });
    expect(data.state).to.equal('waiting');
    await eventually(
      async () => expect((await notices())[0]).to.deep.include({ state: 'sent', id: gone!.id }),
      15_000,
    );
  });

  it('refuses what it cannot do, and says where', async () => {
    const refusal = async (body: WatchInput) =>
      (await set(body).catch((error: unknown) => error)) as {
        problem: { status: number; errors?: { pointer: string }[] };
      };
    expect((await refusal({ cron: 'daily' })).problem).to.deep.include({ status: 422 });
    expect((await refusal({ mailTo: ['nobody'] })).problem.errors![0]).to.have.property(
      'pointer',
      '/mailTo/0',
    );
    const { etag } = await site.stage.client.call('showWatch', { params });
    await set({ afterPublishing: 'look' });
    const late = await site.stage.client
      .call('setWatch', { params, ifMatch: etag, body: {} })
      .catch((error: unknown) => (error as { problem: { status: number } }).problem.status);
    expect(late).to.equal(412);
    await set({ afterPublishing: 'nothing' });
    const wrong = await cli(['webhook', 'add', 'ftp://x.test', '--site', SITE]);
    expect(wrong.code).to.equal(2);
    expect(wrong.err).to.include('https://');
    const none = await cli(['webhook', 'remove', '999', '--site', SITE]);
    expect(none.err).to.include('no webhook 999');
    const nothing = await cli(['watch', 'set', '--site', SITE]);
    expect(nothing.err).to.include('--every');
  });

  it('lets nothing be published that no rehearsal found well, where the site says so', async () => {
    await set({ afterPublishing: 'nothing', needsRehearsal: true });
    site.answers = well;
    const publish = () =>
      site.publish([CHAT, COUNTER, plain('late', '<script>window.late = 1;</script>')]).then(
        () => '',
        (error: unknown) => (error as Error).message,
      );
    expect(await publish()).to.include('this draft has had none');
    const rehearsed = await site.verify({ draft: true });
    expect(rehearsed.summary.isWell).to.equal(true);
    await eventually(async () => expect((await rounds())[0]!.isWell).to.equal(true), 10_000);
    const { etag } = await site.stage.client.call('showDraft', { params });
    await site.stage.client.call('publish', {
      params,
      ifMatch: etag,
      body: { message: 'Rehearsed', force: 'Test' },
    });
    await site.draft([plain('late', '<script>nowhere();</script>')]);
    await site.verify({ draft: true });
    await eventually(async () => expect((await rounds())[0]!.isWell).to.equal(false), 10_000);
    const draft = await site.stage.client.call('showDraft', { params });
    const refused = await site.stage.client
      .call('publish', { params, ifMatch: draft.etag, body: { message: 'Not well', force: 'Test' } })
      .catch((error: unknown) => (error as Error).message);
    expect(refused).to.include('found something wrong');
  });

  it('is read and changed on the command line', async () => {
    const run = async (...args: string[]) => {
      const { code, out, err } = await cli([...args, '--site', SITE]);
      expect(code, err).to.equal(0);
      return out;
    };
    const changed = await run(
      'watch',
      'set',
      '--every',
      '0 6 * * 1',
      '--after-publishing',
      'look',
      '--rehearsal',
      'optional',
    );
    expect(changed)
      .to.match(/Visits: +every Monday at 06:00, next on 20/)
      .and.match(/Publishing: +without a rehearsal, too/);
    const shown = await run('watch');
    expect(shown.split('\n').find((one) => one.startsWith('Shop chat')))
      .to.include('✓')
      .and.include('✗');
    expect(shown).to.include(receiver.url);
    expect(await run('notices')).to.include('“Shop chat” works again');
    expect((await run('visits')).replace(/\s+/g, ' '))
      .to.include('after a release')
      .and.match(/a second look at what round \d+ lost/);
    expect(await run('watch', 'set', '--every', 'never', '--mail', 'none')).to.match(/Visits: +never/);
  });
});
