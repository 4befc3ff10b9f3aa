import { planDifference, snapshotDigest, normalizeLimits } from '@pragmatica/core';
import { expect } from 'chai';
import { settledSites } from '../support/site-lists.js';
import { api } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';

interface ProblemBody {
  readonly title: string;
  readonly detail: string;
  readonly errors?: readonly { pointer: string; detail: string }[];
}

describe('who gets it, over the API', () => {
  let stage: Stage;
  before(async () => (stage = await startStage({ isWhole: true })));
  after(() => stage.close());

  const params = { site: 'skerrywick' };
  const call = async (method: string, path: string, body?: unknown, headers?: Record<string, string>) => {
    const answer = await api(stage.server, stage.token, method, path, body, headers);
    return { status: answer.status, body: answer.json as unknown as ProblemBody };
  };
  const refused = async (path: string, body: unknown, method = 'POST', headers?: Record<string, string>) => {
    const { status, body: problem } = await call(method, path, body, headers);
    expect(status).to.equal(422);
    return problem.errors!.map(({ pointer, detail }) => `${pointer} ${detail}`);
  };
  const plan = async (query: Parameters<typeof stage.client.call<'showPlan'>>[1]['query']) =>
    (await stage.client.call('showPlan', { params, query })).data;
  const change = async (snippet: string, body: object): Promise<void> => {
    const { etag } = await stage.client.call('showSnippet', { params: { ...params, snippet } });
    await stage.client.call('editSnippet', { params: { ...params, snippet }, ifMatch: etag, body });
  };

  describe('refuses, with the place of it,', () => {
    const parts = [{ placement: 'body-end', code: '<i>a</i>' }];
    const cases: readonly (readonly [what: string, limits: unknown, expected: RegExp])[] = [
      ['a device that is none', { devices: ['watch'] }, /^\/limits\/devices\/0 /],
      ['no device at all', { devices: [] }, /^\/limits\/devices Choose at least one/],
      ['an environment that is none', { environment: 'test' }, /^\/limits\/environment /],
      [
        'a time that is none',
        { hours: { weekly: { mon: [{ from: '9', to: '10:00' }] } } },
        /^\/limits\/hours\/weekly\/mon\/0\/from “9” is not a time/,
      ],
      [
        'a day that is none',
        { hours: { exceptions: [{ date: '2027-02-30', spans: [] }] } },
        /^\/limits\/hours\/exceptions\/0\/date/,
      ],
      [
        'hours that overlap',
        {
          hours: {
            weekly: {
              sun: [
                { from: '22:00', to: '02:00' },
                { from: '23:00', to: '23:30' },
              ],
            },
          },
        },
        /^\/limits\/hours\/weekly\/sun\/1 23:00–23:30 overlaps/,
      ],
      ['a weekday that is none', { hours: { weekly: { someday: [] } } }, /^\/limits\/hours\/weekly/],
      ['a wait without end', { visitor: { afterSeconds: 1e9 } }, /^\/limits\/visitor\/afterSeconds /],
      [
        'an unknown limit, naming the nearest',
        { device: ['phone'] },
        /^\/limits\/device .*Did you mean "devices"/,
      ],
    ];
    for (const [what, limits, expected] of cases)
      it(what, async () => {
        const [first] = await refused('/sites/skerrywick/snippets', { name: 'Refused', parts, limits });
        expect(first).to.match(expected);
      });

    it('page groups and purposes that cannot be', async () => {
      const { etag } = await stage.client.call('showSite', { params });
      const patch = (body: unknown) => refused('/sites/skerrywick', body, 'PATCH', { 'if-match': etag });
      const group = { key: 'a', name: 'A', patterns: ['/a'] };
      expect(await patch({ pageGroups: [group, group] })).to.deep.equal([
        '/pageGroups/1/key This key is listed twice.',
      ]);
      expect((await patch({ pageGroups: [{ ...group, patterns: ['@b'] }] }))[0]).to.include(
        'patterns, not other groups',
      );
      expect((await patch({ pageGroups: [{ ...group, patterns: [] }] }))[0]).to.match(
        /^\/pageGroups\/0\/patterns/,
      );
      const consent = {
        cookie: 'c',
        categories: [{ key: 'a', name: 'A' }],
        format: { kind: 'json', path: '$.[' },
      };
      expect((await patch({ consent }))[0]).to.match(/^\/consent\/format\/path This is not JSONPath/);
      expect((await patch({ consent: { ...consent, cookie: 'a b', format: { kind: 'list' } } }))[0]).to.match(
        /^\/consent\/cookie/,
      );
      const field = { name: 'Account', type: 'id', label: 'A' };
      expect((await patch({ fields: [field] }))[0]).to.match(/^\/fields\/0\/name/);
      expect((await patch({ fields: [{ ...field, name: 'a', value: 'x y' }] }))[0]).to.match(
        /^\/fields\/0\/value Use only/,
      );
    });

    it('questions about page loads that there are not', async () => {
      const ask = async (query: string): Promise<string> => {
        const { body } = await call('GET', `/sites/skerrywick/plan?${query}`);
        return `${body.errors?.[0]?.pointer ?? ''} ${body.detail}`;
      };
      expect(await ask('at=tomorrow')).to.match(/^\/at/);
      expect(await ask('device=watch')).to.match(/^\/device/);
      expect(await ask('host=nobody.test')).to.include(
        'Its hosts: skerrywick.localhost, staging.skerrywick.localhost',
      );
      expect(await ask('host=staging.skerrywick.localhost&environment=live')).to.match(
        /^\/environment .* is in staging, not in live/,
      );
      expect(await ask('consent=cake')).to.include('Its purposes: visits, adverts.');
    });
  });

  it('keeps only limits that bound something, so that what is unlimited has the digest that it always had', async () => {
    const snippet = 'newsletter-form';
    const before = (await stage.client.call('showDraft', { params })).data;
    await change(snippet, {
      limits: { devices: ['phone', 'tablet', 'desktop'], consent: [], visitor: { afterSeconds: 0 } },
    });
    const after = (await stage.client.call('showDraft', { params })).data;
    expect(after.digest).to.equal(before.digest);
    expect(after.snapshot.snippets.find(({ key }) => key === snippet)).not.to.have.property('limits');
    expect(normalizeLimits({ visitor: {} })).to.equal(undefined);
    await change(snippet, { limits: { devices: ['phone'] } });
    const changed = (await stage.client.call('showDraft', { params })).data;
    expect(changed.digest).not.to.equal(before.digest);
    expect(changed.digest).to.equal(snapshotDigest(changed.snapshot));
    const { data } = await stage.client.call('showDiff', { params, query: {} });
    expect(data.changes.map(({ message }) => message)).to.include(
      '“Newsletter form” now runs only on phones; before, always and for everybody.',
    );
    await change(snippet, { limits: {} });
  });

  it('plans any page load, of what an environment serves or of the draft', async () => {
    const night = await plan({
      path: '/',
      at: '2027-03-04T20:00',
      device: 'phone',
      consent: 'all',
      visitor: 'first',
      width: 390,
    });
    expect(night.load).to.deep.equal({
      host: 'skerrywick.localhost',
      environment: 'live',
      at: '2027-03-04T20:00:00.000Z',
      localTime: 'Thursday 4 March 2027, 20:00',
      device: 'phone',
      consent: ['visits', 'adverts'],
      visitor: 'first',
      width: 390,
    });
    expect(night.of).to.equal('live (release 1)');
    const summer = await plan({ path: '/', at: '2027-07-01T12:00' });
    expect(summer.load.at, 'on the site’s own clock').to.equal('2027-07-01T11:00:00.000Z');
    expect((await plan({ at: '2027-07-01T12:00:00+02:00' })).load.localTime).to.equal(
      'Thursday 1 July 2027, 11:00',
    );
    const staging = await plan({ host: 'STAGING.skerrywick.localhost' });
    expect(staging.load.environment).to.equal('staging');
    expect(staging.parts.map(({ snippet }) => snippet)).to.include('test-flag');
    expect(staging.draftChanges).to.deep.equal(['“Accessibility menu” is added.']);
    const draft = await plan({ of: 'draft' });
    expect([draft.of, draft.draftChanges]).to.deep.equal(['the draft', []]);
    expect(planDifference(draft as never, draft as never)).to.deep.equal([]);
  });

  it('says every reason, and since when somebody has had it off', async () => {
    await change('summer-offer', { limits: { hours: { weekly: {} } } });
    const { leftOut } = await plan({ path: '/booking', of: 'draft' });
    const reasons = (key: string) => leftOut.find(({ snippet }) => snippet === key)!.reasons;
    expect(reasons('summer-offer').map(({ reason }) => reason)).to.deep.equal(['not-included', 'hours']);
    await change('harbour-chat', { state: 'off' });
    const off = (await plan({ of: 'draft' })).leftOut.find(({ snippet }) => snippet === 'harbour-chat')!;
    expect(off.message).to.match(/^It is switched off since \d+ \w+ \d{4}, by admin\.$/);
    const { data: first } = await stage.client.call('showDraft', { params });
    await change('harbour-chat', { note: 'off for a while' });
    const { data: second } = await stage.client.call('showDraft', { params });
    const since = (snapshot: typeof first.snapshot) =>
      snapshot.snippets.find(({ key }) => key === 'harbour-chat')?.stateSince;
    expect(since(second.snapshot), 'another change does not begin it anew').to.deep.equal(
      since(first.snapshot),
    );
    await change('harbour-chat', { state: 'off' });
    const { data: third } = await stage.client.call('showDraft', { params });
    expect(since(third.snapshot), 'nor does switching off what is off').to.deep.equal(since(first.snapshot));
    await change('harbour-chat', { state: 'on', note: '' });
    await change('summer-offer', { limits: {} });
  });

  it('shows the week of a snippet', async () => {
    await change('visit-counter', {
      limits: {
        hours: {
          weekly: { mon: [{ from: '09:00', to: '12:00' }] },
          exceptions: [{ date: '2027-03-03', spans: [{ from: '08:00', to: '09:00' }] }],
        },
      },
    });
    const week = async (at: string) =>
      (
        await stage.client.call('showCalendar', {
          params: { ...params, snippet: 'visit-counter' },
          query: { at },
        })
      ).data;
    const { days, message, isOpen, until } = await week('2027-03-01T10:00');
    expect(
      days.map(({ date, on }) => `${date} ${on.map(({ from, to }) => `${from}-${to}`).join()}`),
    ).to.deep.equal([
      '2027-03-01 09:00-12:00',
      '2027-03-02 ',
      '2027-03-03 08:00-09:00',
      '2027-03-04 ',
      '2027-03-05 ',
      '2027-03-06 ',
      '2027-03-07 ',
    ]);
    expect([message, isOpen, until]).to.deep.equal([
      'It is on until today 12:00.',
      true,
      '2027-03-01T12:00:00.000Z',
    ]);
    expect((await week('2027-03-01T12:00')).message).to.equal('It is closed, and opens Wednesday 08:00.');
    await change('visit-counter', { limits: {} });
    expect((await week('2027-03-01')).message).to.equal('It has no set hours: it is always on.');
    expect((await call('GET', '/sites/skerrywick/snippets/nobody/calendar')).status).to.equal(404);
  });

  it('shows what page rules hold, before they are saved', async () => {
    const preview = async (include: string[], exclude: string[] = []) =>
      (await stage.client.call('previewPages', { params, body: { include, exclude } })).data;
    const booking = await preview(['@booking'], ['@confirmation']);
    expect([booking.matched, booking.known]).to.deep.equal([['/booking'], 21]);
    expect(booking.words).to.equal('on “Booking pages”, but not on “Confirmation pages”');
    expect((await preview([])).matched).to.have.length(21);
    expect((await preview(['@gone'])).matched).to.deep.equal([]);
    expect(await refused('/sites/skerrywick/pages/preview', { include: ['/('] })).to.have.length(1);
  });

  it('publishes what a site defines along with its snippets', async () => {
    const { data: site, etag } = await stage.client.call('showSite', { params });
    const pageGroups = site.pageGroups.map((group) =>
      group.key === 'confirmation' ? { ...group, patterns: ['/booking/confirmation', '/thanks'] } : group,
    );
    const fields = site.fields.map((field) => ({ ...field, value: 'CR-77-7' }));
    await stage.client.call('editSite', { params, ifMatch: etag, body: { pageGroups, fields } });
    const { data } = await stage.client.call('showDiff', { params, query: {} });
    const messages = data.changes.map(({ message }) => message);
    expect(messages).to.include(
      'The page group “Confirmation pages” now holds /booking/confirmation and /thanks; before, /booking/confirmation.',
    );
    expect(messages).to.include('The field “container” is now “CR-77-7” on live; before, “CR-20-3”.');
    const codeNow = async (): Promise<string> =>
      (await plan({ path: '/' })).parts.find(({ key }) => key === 'tag-container/2')!.code;
    expect(await codeNow(), 'visitors get it when it is published').to.include('id=CR-20-3"');
    const draft = await stage.client.call('showDraft', { params });
    await stage.client.call('publish', {
      params,
      ifMatch: draft.etag,
      body: { message: 'Another container' },
    });
    expect(await codeNow()).to.include('id=CR-77-7"');
    const { data: old } = await stage.client.call('showRelease', { params: { ...params, release: 1 } });
    expect(old.snapshot.site.fields![0]!.value, 'the old release stays as it was').to.equal('CR-20-3');
    expect(snapshotDigest(old.snapshot)).to.equal(old.digest);
  });

  it('gives fields of several sites values, each site by itself', async () => {
    const set = async (
      ...changes: { site: string; name: string; value: string | null; environment?: 'staging' }[]
    ) => (await stage.client.call('changeFields', { body: { changes } })).data.items;
    const name = 'counter_account';
    const results = await set(
      { site: 'port-hallow', name, value: 'TM-7' },
      { site: 'port-hallow', name, value: 'TM-8', environment: 'staging' },
      { site: 'tern-hostel', name, value: 'not one' },
      { site: 'nowhere', name, value: 'TM-9' },
    );
    expect(results.map(({ site, isDone }) => [site, isDone])).to.deep.equal([
      ['port-hallow', true],
      ['tern-hostel', false],
      ['nowhere', false],
    ]);
    expect(results[1]!.message).to.equal(
      '“Account at Tallymast” cannot be “not one”. Use only letters, digits, dots, colons, slashes, dashes and underscores.',
    );
    const show = async (site: string) =>
      (await stage.client.call('showSite', { params: { site } })).data.fields[0]!;
    expect(await show('port-hallow')).to.include({ value: 'TM-7', staging: 'TM-8' });
    await set({ site: 'port-hallow', name, value: null, environment: 'staging' });
    expect(await show('port-hallow')).not.to.have.property('staging');
    expect((await show('tern-hostel')).value, 'as it was').to.equal('TM-1903');
    const { data } = await stage.client.call('listActivity', { params: { site: 'port-hallow' }, query: {} });
    expect(data.items[0]!.message).to.equal(`Cleared the field “${name}” on staging.`);
  });

  it('copies a snippet with what it needs, or says why not', async () => {
    const copy = async (snippet: string, sites: string[]) =>
      (await stage.client.call('copySnippet', { params: { ...params, snippet }, body: { sites } })).data
        .items;
    const [done, self, gone] = await copy('booking-pixel', ['tern-hostel', 'skerrywick', 'nowhere']);
    expect(done!.message).to.equal(
      '“Booking pixel” is in the draft. Its fields came along without values: pixel_account and pixel_event. Its page groups came along: “Booking pages”. It waits for consent to adverts, which this site does not ask for yet.',
    );
    expect([self!.isDone, self!.message]).to.deep.equal([false, 'This is the site it comes from.']);
    expect(gone!.message).to.equal('There is no site "nowhere".');
    const { data } = await stage.client.call('listFindings', {
      params: { site: 'tern-hostel' },
      query: { check: 'undefined-reach' },
    });
    expect(data.items).to.have.length(1);
    const [twice] = await copy('booking-pixel', ['tern-hostel']);
    expect(twice!.message).to.include('which stays as it is');
  });

  it('lists the sites with what needs most first', async () => {
    const items = await settledSites(stage.client);
    const kinds = items.map(({ attention }) => attention.some(({ kind }) => kind === 'errors-found'));
    expect(kinds.lastIndexOf(true)).to.be.lessThan(kinds.indexOf(false));
    expect(items).to.have.length(5);
  });
});
