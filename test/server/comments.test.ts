import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { expect } from 'chai';
import { eventually } from '../support/http.js';
import { makeMember } from '../support/members.js';
import { startReceiver, type Receiver } from '../support/receiver.js';
import { refusal } from '../support/refusal.js';
import { startMailServer, type MailServer } from '../support/smtp.js';
import { startStage, type Stage } from '../support/stage.js';

const params = { site: 'mill' };
const JAGO = 'jago@skerrywick.example';

describe('comments', function () {
  this.timeout(60_000);
  let mail: MailServer;
  let receiver: Receiver;
  let stage: Stage;
  let isle: ApiClient;
  let jago: ApiClient;

  before(async () => {
    mail = await startMailServer();
    receiver = await startReceiver();
    stage = await startStage({
      ...{ hasDemo: false, hasWorker: true },
      settings: { PRAGMATICA_SMTP_URL: mail.url, PRAGMATICA_ADDRESS: 'https://pragmatica.example/' },
    });
    const { client } = stage;
    for (const key of ['mill', 'quay']) await client.call('createSite', { body: { key, name: key } });
    const as = async (login: string, site: 'mill' | 'quay', role: 'view' | 'edit') =>
      createClient({
        server: stage.server,
        token: await makeMember(stage, login, { sites: { [site]: role } }),
        fetch: localhostFetch,
      });
    isle = await as('isle', 'mill', 'edit');
    jago = await as(JAGO, 'mill', 'view');
    await as('quayside', 'quay', 'edit');
    const parts = [{ placement: 'body-end' as const, code: '<script>window.chat = {};</script>' }];
    await client.call('createSnippet', { params, body: { key: 'chat', name: 'Harbour chat', parts } });
    const code = '<script src="https://cdn.example/x.js" async></script>';
    for (const key of ['one', 'two'])
      await client.call('createSnippet', {
        params,
        body: { key, name: `Counter ${key}`, parts: [{ placement: 'head-end', code }] },
      });
    await client.call('addWebhook', { params, body: { url: receiver.url } });
  });
  after(async () => {
    await stage.close();
    await mail.close();
    receiver.server.close();
  });
  beforeEach(() => {
    mail.mails.length = 0;
    receiver.got.length = 0;
  });

  const say = (
    who: ApiClient,
    text: string,
    on: { snippet?: string; finding?: string } = { snippet: 'chat' },
  ) => who.call('addComment', { params, body: { text, ...on } });
  const list = async (query = {}) => (await stage.client.call('listComments', { params, query })).data;

  it('are written by whoever sees the site, and mailed to whom they mention', async () => {
    const text = `Is this still wanted, @${JAGO}? @admin @tegen @quayside`;
    const { data } = await say(isle, text);
    expect(data).to.deep.include({
      snippet: 'chat',
      about: 'Harbour chat',
      by: 'isle',
      byName: 'Somebody isle',
    });
    expect(data).to.deep.include({ canEdit: true, canClose: true, canRemove: true });
    // Whoever is no member of this site is nobody here, though they have an account.
    expect(data).to.deep.include({ told: [JAGO], notTold: ['admin'], unknown: ['tegen', 'quayside'] });
    await eventually(() => expect(mail.mails).to.have.length(1), 15_000);
    const [got] = mail.mails;
    expect(got!.to).to.deep.equal([JAGO]);
    const source = got!.source.replace(/=\r\n/g, '').replace(/\r\n /g, ' ');
    expect(source).to.include('Subject: mill: Somebody isle commented: Harbour chat');
    expect(source).to.include(`https://pragmatica.example/sites/mill/comments#comment-${data.id}`);
    await eventually(() => expect(receiver.got).to.have.length(1), 15_000);
    const told = JSON.parse(receiver.got[0]!.body) as { type: string; data: object };
    expect(told.type).to.equal('comment.added');
    expect(told.data).to.deep.include({ by: 'isle', text, snippet: 'chat', mentioned: [JAGO, 'admin'] });
  });

  it('go where a member wants their mail', async () => {
    await stage.client.call('editAccount', { body: { mail: 'harbour@skerrywick.example' } });
    expect((await stage.client.call('showSession', {})).data.mail).to.equal('harbour@skerrywick.example');
    expect((await say(isle, '@admin')).data.told).to.deep.equal(['admin']);
    await eventually(() => expect(mail.mails).to.have.length(1), 15_000);
    expect(mail.mails[0]!.to).to.deep.equal(['harbour@skerrywick.example']);
    await stage.client.call('editAccount', { body: { mail: null } });
    expect((await say(isle, '@admin')).data.notTold).to.deep.equal(['admin']);
    // Their login is an address; they want no mail there.
    await jago.call('editAccount', { body: { mail: null } });
    const { items } = (await stage.client.call('listSiteMembers', { params })).data;
    expect(items.find(({ login }) => login === JAGO)!.canBeMailed).to.equal(false);
    const refused = await refusal(jago.call('editAccount', { body: { mail: 'nowhere' } }));
    expect(refused.pointer).to.equal('/mail');
  });

  it('tell nobody of what they write themselves, and nobody twice', async () => {
    await stage.client.call('editAccount', { body: { mail: 'harbour@skerrywick.example' } });
    const { data } = await say(stage.client, 'I, @admin, said so.');
    expect(data).to.deep.include({ told: [], notTold: [] });
    const first = (await say(isle, '@admin look')).data;
    const edited = await isle.call('editComment', {
      params: { ...params, comment: first.id },
      body: { text: '@admin look at the chat' },
    });
    expect(edited.data).to.deep.include({ text: '@admin look at the chat', told: [] });
    expect(edited.data.editedAt).to.not.equal(null);
  });

  it('are on findings, too, and stay when the finding is gone', async () => {
    const { items } = (await stage.client.call('listFindings', { params, query: {} })).data;
    const { id: finding, title } = items.find(({ subjects }) => subjects.length === 2)!;
    const { data } = await say(jago, 'Which one do we keep?', { finding });
    expect(data).to.deep.include({ finding, about: title, snippet: null, canClose: true });
    await stage.client.call('switchSnippets', { params, body: { snippets: ['two'], state: 'off' } });
    expect((await refusal(say(jago, 'And now?', { finding }))).status).to.equal(404);
    const kept = await list({ finding });
    expect(kept.items.map(({ text }) => text)).to.deep.equal(['Which one do we keep?']);
    const subjects = (await stage.client.call('listCommented', { params })).data.items;
    expect(subjects[0]).to.deep.equal({ snippet: null, finding, about: title, open: 1, all: 1 });
    expect(subjects.find(({ snippet }) => snippet === 'chat')!.all).to.be.above(3);
  });

  it('are done, opened again and removed by who may', async () => {
    const { id: comment } = (await say(jago, 'Move it down?')).data;
    const at = { params: { ...params, comment } };
    const { id: own } = (await say(stage.client, 'Mine')).data;
    const foreign = { params: { ...params, comment: own } };
    expect((await refusal(isle.call('editComment', { ...at, body: { text: 'No' } }))).status).to.equal(403);
    expect((await refusal(jago.call('editComment', { ...foreign, body: { isDone: true } }))).status).to.equal(
      403,
    );
    expect((await refusal(isle.call('removeComment', at))).status).to.equal(403);
    const done = (await isle.call('editComment', { ...at, body: { isDone: true } })).data;
    expect(done.doneBy).to.equal('isle');
    const { open } = await list();
    expect((await list({ state: 'done' })).items.map(({ id }) => id)).to.deep.equal([comment]);
    expect((await list({ state: 'open' })).items).to.have.length(open);
    await jago.call('editComment', { ...at, body: { isDone: false } });
    expect((await list()).open).to.equal(open + 1);
    await stage.client.call('removeComment', at);
    expect((await refusal(jago.call('removeComment', at))).status).to.equal(404);
    const [entry] = (await stage.client.call('listActivity', { params, query: { q: 'comment' } })).data.items;
    expect(entry!.message).to.equal(`Removed a comment by ${JAGO} on: Harbour chat`);
    const detail = await stage.client.call('showActivity', { params: { ...params, entry: entry!.id } });
    expect(JSON.stringify(detail.data.changes)).to.include('Move it down?');
  });

  it('come page by page, the newest first, of one site alone', async () => {
    const first = await list({ limit: 2 });
    const second = await list({ limit: 2, after: first.next! });
    const ids = [...first.items, ...second.items].map(({ id }) => id);
    expect(ids).to.deep.equal([...ids].sort((a, b) => b - a));
    expect(new Set(ids).size).to.equal(4);
    const other = await stage.client.call('listComments', { params: { site: 'quay' }, query: {} });
    expect(other.data.items).to.deep.equal([]);
    const foreign = { params: { site: 'quay', comment: ids[0]! } };
    expect((await refusal(stage.client.call('removeComment', foreign))).status).to.equal(404);
  });

  it('are refused where they say nothing, or are on nothing', async () => {
    const wrong: readonly (readonly [body: object, pointer: string])[] = [
      [{ text: '  ', snippet: 'chat' }, '/text'],
      [{ text: 'x'.repeat(4_001), snippet: 'chat' }, '/text'],
      [{ text: 'On what?' }, '/snippet'],
      [{ text: 'On both', snippet: 'chat', finding: 'x' }, '/snippet'],
    ];
    for (const [body, pointer] of wrong) {
      const { status, pointer: at } = await refusal(
        stage.client.call('addComment', { params, body: body as { text: string } }),
      );
      expect(status).to.equal(422);
      expect(at).to.equal(pointer);
    }
    expect((await refusal(say(isle, 'Hm', { snippet: 'none' }))).status).to.equal(404);
  });
});
