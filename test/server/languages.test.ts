import { readFileSync } from 'node:fs';
import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { parseTranslation, type Translation } from '@pragmatica/core';
import { expect } from 'chai';
import pg from 'pg';
import { ADMIN, startStage, type Stage } from '../support/stage.js';
import { api, eventually, send } from '../support/http.js';
import { makeMember } from '../support/members.js';
import { startReceiver, type Receiver } from '../support/receiver.js';
import { refusal } from '../support/refusal.js';
import { startMailServer, type MailServer } from '../support/smtp.js';

const params = { site: 'mill' };
const FOLDER = new URL('../../languages/', import.meta.url);
const german: Translation = parseTranslation(readFileSync(new URL('de.json', FOLDER), 'utf8'));

/** A text of the German catalogues. */
function text(...path: readonly string[]): string {
  return path.reduce<unknown>(
    (node, name) => (node as Record<string, unknown>)[name],
    german.texts,
  ) as string;
}

describe('the language of a member', function () {
  this.timeout(60_000);
  let mail: MailServer;
  let receiver: Receiver;
  let stage: Stage;
  let elke: ApiClient;
  let wenna: ApiClient;
  let database: pg.Client;

  const as = (token: string, locale?: string): ApiClient =>
    createClient({ server: stage.server, token, locale, fetch: localhostFetch });

  before(async () => {
    mail = await startMailServer();
    receiver = await startReceiver();
    stage = await startStage({
      ...{ hasDemo: false, hasWorker: true },
      settings: { PRAGMATICA_SMTP_URL: mail.url },
    });
    const { client } = stage;
    await client.call('createSite', { body: { key: 'mill', name: 'Mill', timeZone: 'Europe/London' } });
    elke = as(await makeMember(stage, 'elke', { sites: { mill: 'own' } }));
    wenna = as(await makeMember(stage, 'wenna', { sites: { mill: 'own' } }));
    await elke.call('editAccount', { body: { language: 'de', mail: 'elke@skerrywick.example' } });
    const code = '<script src="https://cdn.example/x.js" async></script>';
    for (const key of ['one', 'two'])
      await client.call('createSnippet', {
        params,
        body: { key, name: `Counter ${key}`, parts: [{ placement: 'head-end', code }] },
      });
    database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
  });
  after(async () => {
    await database.end();
    await stage.close();
    await mail.close();
    receiver.server.close();
  });

  it('is one of those that the service speaks', async () => {
    const { items } = (await wenna.call('listLanguages', {})).data;
    expect(items).to.deep.equal([
      { tag: 'en', name: 'English', isSpoken: true },
      { tag: 'de', name: 'Deutsch', isSpoken: false },
    ]);
    expect((await elke.call('showSession', {})).data.language).to.equal('de');
    const refused = await refusal(wenna.call('editAccount', { body: { language: 'xx' } }));
    expect(refused).to.include({ status: 422, pointer: '/language' });
    expect(refused.detail).to.include('The service does not speak xx. It speaks en and de.');
  });

  it('is what findings are in, and they are the same findings', async () => {
    const findings = async (who: ApiClient) =>
      (await who.call('listFindings', { params, query: {} })).data.items;
    const [first, second] = [await findings(elke), await findings(wenna)];
    expect(first.map(({ id, fingerprint }) => [id, fingerprint])).to.deep.equal(
      second.map(({ id, fingerprint }) => [id, fingerprint]),
    );
    const { check } = first[0]!;
    expect(first[0]!.why).to.equal(text('checks', check, 'why'));
    expect(second[0]!.why).not.to.equal(first[0]!.why);
    // Whoever asked first decides nothing.
    expect((await findings(elke))[0]!.title).to.equal(first[0]!.title);
  });

  it('is what refusals are in, down to the field', async () => {
    const there = await refusal(elke.call('showSite', { params: { site: 'nowhere' } }));
    const here = await refusal(wenna.call('showSite', { params: { site: 'nowhere' } }));
    expect(there.id).to.equal(here.id);
    expect(there.detail).to.include('„nowhere“');
    expect(here.detail).to.include('"nowhere"');
    const body = { key: 'Wrong key', name: 'x', parts: [] };
    const field = await refusal(elke.call('createSnippet', { params, body }));
    expect([field.pointer, field.detail]).to.satisfy(
      ([pointer, detail]: [string, string]) =>
        pointer === '/key' && detail.includes(text('contract.fields', 'keyForm')),
    );
  });

  it('is what the list of sites is in, from one summary', async () => {
    const attention = async (who: ApiClient) =>
      (await who.call('listSites', { query: {} })).data.items[0]!.attention;
    await eventually(async () => {
      const [there, here] = [await attention(elke), await attention(wenna)];
      const said = ([first]: typeof here) => [first!.kind, first!.message];
      expect(said(here)).to.satisfy(
        ([kind, message]: [string, string]) =>
          kind === 'errors-found' && message.startsWith('Cannot be published: “Counter two” is'),
      );
      expect(there.map(({ kind }) => kind)).to.deep.equal(here.map(({ kind }) => kind));
      expect(there.find(({ kind }) => kind === 'no-host')!.message).to.equal(
        text('server.site', 'siteHasNo'),
      );
      expect(there[0]!.message).to.include('„Counter two“');
    });
    const { rows } = await database.query<{ attention: { message: string }[] }>(
      'select attention from site_summary',
    );
    // Who looks into the database, as an older version does, reads words.
    expect(rows[0]!.attention[0]!.message).to.match(/^Cannot be published/);
  });

  it('is what the trail is in, which itself is in the installation’s', async () => {
    await elke.call('switchSnippets', { params, body: { snippets: ['two'], state: 'off' } });
    const entry = async (who: ApiClient) =>
      (await who.call('listActivity', { params, query: {} })).data.items[0]!;
    const [there, here] = [await entry(elke), await entry(wenna)];
    expect(here.message).to.equal('Switched off “Counter two”.');
    expect(there.message).to.include('„Counter two“').and.not.equal(here.message);
    const { rows } = await database.query<{ message: string }>(
      'select message from audit order by id desc limit 1',
    );
    expect(rows[0]!.message).to.equal(here.message);
    for await (const event of stage.client.stream('verifyTrail', { query: {} }))
      if (event.type === 'done') expect(event).to.include({ isWhole: true });
  });

  it('shows nothing that the chain of the trail does not hold', async () => {
    const { rows } = await database.query<{ id: number; said: string }>(
      'select id, said from audit order by id desc limit 1',
    );
    const [{ id, said }] = rows as [(typeof rows)[number]];
    await database.query(`set session_replication_role = replica`);
    await database.query('update audit set said = $1 where id = $2', [said.replace('two', 'one'), id]);
    await database.query(`set session_replication_role = origin`);
    const { data } = await elke.call('showActivity', { params: { ...params, entry: id } });
    expect(data.message).to.equal('Switched off “Counter two”.');
  });

  it('is what a program asks for first', async () => {
    const problem = async (token: string | undefined, accept?: string) => {
      const headers: Record<string, string> = accept === undefined ? {} : { 'accept-language': accept };
      const { json } = await api(stage.server, token, 'GET', '/sites/nowhere', undefined, headers);
      return (json as { detail: string }).detail;
    };
    const token = await makeMember(stage, 'piran', { sites: { mill: 'view' } });
    expect(await problem(token, 'de-AT, en;q=0.5')).to.include('„nowhere“');
    expect(await problem(token, 'cy, en')).to.include('"nowhere"');
    expect(await problem(token)).to.include('"nowhere"');
    // Nobody who is signed in.
    expect(await problem(undefined, 'de')).to.equal(
      text('server.problems', 'not-signed-in', 'sign-in-first'),
    );
  });

  it('is kept by the browser, so that the page itself is in it', async () => {
    const port = Number(new URL(stage.server).port);
    const page = async (headers: Record<string, string>) =>
      /<html lang="([^"]+)">/.exec((await send({ port, path: '/', headers })).text)?.[1];
    expect(await page({})).to.equal('en');
    expect(await page({ 'accept-language': 'de-CH,de;q=0.9' })).to.equal('de');
    expect(await page({ 'accept-language': 'de', cookie: 'pragmatica_language=en' })).to.equal('en');
    expect(await page({ cookie: 'pragmatica_language=nonsense' })).to.equal('en');
    const answer = await fetch(`${stage.server}/languages/de.json`);
    expect(parseTranslation(await answer.text()).tag).to.equal('de');
    expect((await fetch(`${stage.server}/languages/xx.json`)).status).to.equal(404);
    const signedIn = await fetch(`${stage.server}/api/v1/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ login: ADMIN.login, password: ADMIN.password }),
    });
    const session = /pragmatica_session=[^;]+/.exec(signedIn.headers.get('set-cookie') ?? '')![0];
    const change = async (language: string | null) =>
      fetch(`${stage.server}/api/v1/session`, {
        method: 'PATCH',
        headers: { 'content-type': 'application/merge-patch+json', cookie: session },
        body: JSON.stringify({ language }),
      });
    expect((await change('de')).headers.get('set-cookie')).to.include('pragmatica_language=de;');
    const again = await fetch(`${stage.server}/api/v1/session`, { headers: { cookie: session } });
    expect(again.headers.get('set-cookie')).to.include('pragmatica_language=de;');
    expect(again.headers.get('content-language')).to.equal('de');
    expect((await change(null)).headers.get('set-cookie')).to.include(
      'pragmatica_language=; Path=/; Expires=',
    );
  });

  it('is what mails to them are in; programs are told in the installation’s', async () => {
    await wenna.call('switchSnippets', { params, body: { snippets: ['two'], state: 'on' } });
    await wenna.call('addWebhook', { params, body: { url: receiver.url } });
    const { items } = (await wenna.call('listFindings', { params, query: {} })).data;
    const { id: finding, title } = items[0]!;
    await wenna.call('addComment', { params, body: { finding, text: '@elke What of this?' } });
    await eventually(() => expect(mail.mails).to.have.length(1), 15_000);
    const source = mail.mails[0]!.source.replace(/=\r\n/g, '').replace(/\r\n /g, ' ');
    expect(source).to.match(/^Subject: .*kommentiert/m);
    await eventually(() => expect(receiver.got).to.have.length(1), 15_000);
    const told = JSON.parse(receiver.got[0]!.body) as { data: { subject: string; about: string } };
    expect(told.data.about).to.equal(title);
    expect(told.data.subject).to.include('commented');
    const [there] = (await elke.call('listComments', { params, query: {} })).data.items;
    const [german] = (await elke.call('listFindings', { params, query: {} })).data.items;
    expect(there!.about).to.equal(german!.title);
  });
});
