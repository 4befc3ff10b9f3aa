import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { actNoticeOf } from '@pragmatica/core';
import { expect } from 'chai';
import { Webhook } from 'standardwebhooks';
import { eventually } from '../support/http.js';
import { makeMember } from '../support/members.js';
import { startReceiver, type Receiver } from '../support/receiver.js';
import { refusal } from '../support/refusal.js';
import { startMailServer, type MailServer } from '../support/smtp.js';
import { startStage, type Stage } from '../support/stage.js';

const params = { site: 'mill' };
const MAIL = 'ops@skerrywick.example';

describe('what a site tells of what its people do', function () {
  this.timeout(60_000);
  let mail: MailServer;
  let receiver: Receiver;
  let stage: Stage;
  let secret: string;
  let isle: ApiClient;

  before(async () => {
    mail = await startMailServer();
    receiver = await startReceiver();
    stage = await startStage({
      hasDemo: false,
      hasWorker: true,
      settings: { PRAGMATICA_SMTP_URL: mail.url, PRAGMATICA_ADDRESS: 'https://pragmatica.example/' },
    });
    const { client } = stage;
    await client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    const token = await makeMember(stage, 'isle', { sites: { mill: 'publish' } });
    isle = createClient({ server: stage.server, token, fetch: localhostFetch });
    const { etag } = await client.call('showWatch', { params });
    await client.call('setWatch', { params, ifMatch: etag, body: { mailTo: [MAIL] } });
    ({
      data: { secret },
    } = await client.call('addWebhook', { params, body: { url: receiver.url } }));
  });
  after(async () => {
    await stage.close();
    await mail.close();
    receiver.server.close();
  });
  beforeEach(() => {
    receiver.got.length = 0;
    mail.mails.length = 0;
  });

  const add = (key: string, code = `<meta name="${key}" content="1">`) =>
    stage.client.call('createSnippet', {
      params,
      body: { key, name: key, parts: [{ placement: 'head-end', code }] },
    });
  const publish = (body: {
    readonly message: string;
    readonly environments?: ('staging' | 'live')[];
    readonly force?: string;
  }) => stage.client.call('publish', { params, ifMatch: '*', body });

  /** What the program is told next, with the signature checked. */
  async function told(): Promise<{ readonly type: string; readonly data: Record<string, unknown> }> {
    await eventually(() => expect(receiver.got).to.have.length.above(0), 15_000);
    const { headers, body } = receiver.got.shift()!;
    return new Webhook(secret).verify(body, headers) as { type: string; data: Record<string, unknown> };
  }
  /** What people read next; quoted-printable and folded lines undone. */
  async function mailed(): Promise<string> {
    await eventually(() => expect(mail.mails).to.have.length.above(0), 15_000);
    return mail.mails
      .shift()!
      .source.replace(/=\r\n/g, '')
      .replace(/(?:=[0-9A-F]{2})+/g, (bytes) => Buffer.from(bytes.replaceAll('=', ''), 'hex').toString())
      .replace(/\r\n /g, ' ');
  }

  it('tells programs of a release, and mails nobody', async () => {
    await add('counter');
    await publish({ message: 'A counter' });
    const { type, data } = await told();
    expect(type).to.equal('release.published');
    expect(data).to.deep.include({
      site: { key: 'mill', name: 'Tide Mill' },
      subject: 'Tide Mill: release 1 was published',
      ...{ by: 'admin', release: 1, environments: ['staging', 'live'], message: 'A counter', forced: null },
      address: 'https://pragmatica.example/sites/mill/releases',
    });
    expect(data['digest']).to.match(/^[0-9a-f]{64}$/);
    await add('gauge');
    await publish({ message: 'A gauge', environments: ['staging'] });
    expect((await told()).data).to.deep.include({ release: 2, environments: ['staging'] });
    await stage.client.call('restoreRelease', {
      params: { ...params, environment: 'staging' },
      ifMatch: '*',
      body: { release: 1 },
    });
    const back = await told();
    expect(back.type).to.equal('release.restored');
    expect(back.data).to.deep.include({ by: 'admin', release: 1, former: 2, environment: 'staging' });
    expect(mail.mails).to.deep.equal([]);
  });

  it('mails what was published in spite of errors, with the reason', async () => {
    await add('twice', '<meta name="counter" content="1">');
    expect((await refusal(publish({ message: 'Twice' }))).id).to.equal('errors-found');
    await publish({ message: 'Twice', force: 'The agency wants it' });
    const { data } = await told();
    expect(data['forced']).to.have.property('reason', 'The agency wants it');
    const text = await mailed();
    expect(text).to.match(/^Subject: Tide Mill: release 3 was published in spite of errors/m);
    expect(text).to.include('The reason that was given: The agency wants it');
    expect(text).to.include('- “twice” is the same code as “counter”');
    expect(text).to.include('https://pragmatica.example/sites/mill/releases');
  });

  it('tells of a request for approval, and of what was decided', async () => {
    await add('pixel');
    const { data: asked } = await stage.client.call('askApproval', {
      params,
      ifMatch: '*',
      body: { message: 'The spring campaign' },
    });
    const address = `https://pragmatica.example/sites/mill/approvals/${asked.id}`;
    const request = await told();
    expect(request.type).to.equal('approval.requested');
    expect(request.data).to.deep.include({ approval: asked.id, by: 'admin', release: null, address });
    const text = await mailed();
    expect(text).to.match(/^Subject: Tide Mill: admin asks for approval/m);
    expect(text).to.include('The spring campaign').and.to.include(address);
    await isle.call('decideApproval', {
      params: { ...params, approval: asked.id },
      body: { decision: 'declined', note: 'Not before April' },
    });
    const decision = await told();
    expect(decision.type).to.equal('approval.decided');
    expect(decision.data).to.deep.include({
      ...{ approval: asked.id, decision: 'declined', by: 'isle', asker: 'admin', note: 'Not before April' },
    });
    const answer = await mailed();
    expect(answer).to.match(/^Subject: Tide Mill: isle declined what admin asked for/m);
    expect(answer).to.include('isle says: Not before April');
  });

  it('tells nothing of what was taken back with its transaction', async () => {
    await add('again', '<meta name="counter" content="1">');
    await refusal(publish({ message: 'Refused' }));
    const { data } = await stage.client.call('listNotices', { params, query: {} });
    expect(data.items.filter(({ state }) => state === 'waiting')).to.deep.equal([]);
    expect(receiver.got).to.deep.equal([]);
  });

  it('words each act by itself', () => {
    const of = { site: 'Tide Mill', moment: 'today', address: 'https://p.example/a' };
    const approved = actNoticeOf(
      { kind: 'decided', by: 'isle', asker: 'admin', decision: 'approved', message: 'Spring', note: '' },
      of,
    );
    expect(approved.subject).to.equal('Tide Mill: isle approved what admin asked for');
    expect(approved.text).to.equal(
      'It was about: Spring\n\nIt can be published now, as long as the draft stays as it is: https://p.example/a\n',
    );
    const put = actNoticeOf({ kind: 'restored', by: 'admin', release: 3, environment: 'live' }, of);
    expect(put.subject).to.equal('Tide Mill: the live site serves release 3');
    expect(put.text).to.include('admin put release 3 into the live site on today.');
  });
});
