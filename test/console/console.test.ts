import { expect } from 'chai';
import pg from 'pg';
import type { Page } from 'playwright-core';
import {
  choosePage,
  type ConsolePage,
  DESKTOP,
  openConsole,
  pickUp,
  replaceCode,
  startBrowser,
  unfold,
} from '../support/browser.js';
import { eventually, send } from '../support/http.js';
import { useConsole } from '../support/hooks.js';
import { PASSWORD, makeMember } from '../support/members.js';
import { ADMIN, startStage, type Stage } from '../support/stage.js';

describe('the console', function () {
  this.timeout(180_000);
  const started = useConsole();
  let stage: Stage;
  let open: ConsolePage;
  let page: Page;
  before(() => ({ stage } = started()));
  beforeEach(() => (page = (open = started()).page));

  const params = { site: 'skerrywick' };
  const strip = (path: string) => `/sites/skerrywick/strip?path=${encodeURIComponent(path)}&of=draft`;
  const partNames = async (): Promise<string[]> =>
    (await page.locator('section[aria-label^="The page"] li a').allTextContents()).map((name) => name.trim());

  it('shows the sites with what needs attention', async () => {
    await page.goto('/');
    await page.getByText('2 changes are saved but not live').waitFor();
    await page.getByRole('link', { name: 'Skerrywick Ferries' }).click();
    await page.waitForURL('**/sites/skerrywick/strip');
  });

  it('draws a page’s parts in the order in which they run, and says why others are left out', async () => {
    await page.goto(strip('/booking'));
    await page.getByRole('link', { name: 'Booking button' }).waitFor();
    const { data } = await stage.client.call('showPlan', {
      params,
      query: { path: '/booking', of: 'draft' },
    });
    expect(await partNames()).to.deep.equal(data.parts.map((part) => part.name));
    const left = page.getByRole('region', { name: 'Not on this page' }).filter({ visible: true });
    expect(await left.textContent())
      .to.include('Works notice')
      .and.match(/It is switched off since .+, by admin\./)
      .and.include('it runs only on /, /fares and /timetables/*.');
    await choosePage(page, 'What a visitor of', '/contact');
    await page
      .locator('section[aria-label^="The page"]')
      .getByText('Booking button')
      .waitFor({ state: 'detached' });
    expect(await partNames()).not.to.include('Newsletter form');
  });

  it('tells what is live now from what publishing would bring', async () => {
    await page.goto(strip('/'));
    await page.getByRole('link', { name: 'Accessibility menu' }).waitFor();
    await page.getByRole('radio', { name: /^now/ }).click();
    await page
      .locator('section[aria-label^="The page"]')
      .getByRole('link', { name: 'Accessibility menu' })
      .waitFor({ state: 'detached' });
    const left = page.getByRole('region', { name: 'Not on this page' }).filter({ visible: true });
    await left.getByText('Saved, but not published.').waitFor();
    expect(await page.getByRole('switch').count(), 'what is live is not switched, it is published').to.equal(
      0,
    );
  });

  it('switches a snippet in the draft and takes it back', async () => {
    await page.goto(strip('/'));
    const control = page.getByRole('switch', { name: 'Harbour chat is on' });
    await control.click();
    await page.getByText('“Harbour chat” is off in the draft').first().waitFor();
    await page.getByText('“Harbour chat” is switched off.').waitFor();
    expect(
      (await stage.client.call('showSnippet', { params: { ...params, snippet: 'harbour-chat' } })).data.state,
    ).to.equal('off');
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('“Harbour chat” is switched off.').waitFor({ state: 'detached' });
    expect(
      (await stage.client.call('showSnippet', { params: { ...params, snippet: 'harbour-chat' } })).data.state,
    ).to.equal('on');
  });

  it('changes the order from the keyboard', async () => {
    await page.goto(strip('/'));
    await pickUp(page, 'Move Tag container');
    await page.keyboard.press('ArrowUp');
    await page.waitForTimeout(250);
    await page.keyboard.press('Space');
    await page.getByText('Order changed in the draft').first().waitFor();
    const { data } = await stage.client.call('showOrder', { params });
    expect(data.lists[0]!.parts).to.deep.equal(['tag-container/1', 'cookie-question/1']);
  });

  it('adds a snippet: paste, place, choose pages; it refuses code that breaks the page', async () => {
    await page.goto('/sites/skerrywick/snippets/new');
    await replaceCode(page, '<div>never closed');
    await page.getByText('You cannot publish it like this').waitFor();
    await replaceCode(page, '<script async src="http://pierlist.test/stops.js"></script>');
    await page.getByText('It leaves the rest of the page alone.').waitFor();
    await page.getByRole('radio', { name: 'At an element' }).click();
    await page.getByLabel('Element', { exact: true }).fill('stop-directory');
    await unfold(page, 'Name and notes');
    await page.getByLabel('Name', { exact: true }).fill('Stop directory');
    await unfold(page, 'On which pages?');
    await page.getByRole('radio', { name: 'Only some pages' }).click();
    await page.getByText('No known page matches').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: '/stops' }).click();
    await page.getByText('1 of 21 known pages').waitFor();
    await page.getByRole('button', { name: 'Add to draft' }).click();
    await page.waitForURL('**/strip?of=draft&path=%2Fstops');
    await page
      .getByRole('region', { name: 'inside the element #stop-directory' })
      .getByText('not live yet')
      .waitFor();
  });

  it('publishes what it has shown, and visitors get it', async () => {
    await page.goto(strip('/stops'));
    await page.getByRole('button', { name: 'Publish…' }).click();
    await page.getByLabel('What does this change?').fill('Stops and larger text');
    await page.getByRole('button', { name: 'Publish now' }).click();
    await page.getByText('Release 2 is live', { exact: true }).waitFor();
    await page.getByText('Visitors get what you see here: live (release 2).').waitFor();
    // The gateway follows within moments of its own.
    await eventually(async () => {
      const visitor = await send({ port: stage.gatewayPort, host: 'skerrywick.localhost', path: '/stops' });
      expect(visitor.text).to.include(
        '<div id="stop-directory"><script async src="http://pierlist.test/stops.js">',
      );
    });
  });

  it('puts a release back, after saying what that would change', async () => {
    await page.goto('/sites/skerrywick/releases');
    await page.getByRole('button', { name: 'Restore…' }).click();
    await page.getByRole('dialog').getByText('“Accessibility menu” is gone.').waitFor();
    await page.getByRole('button', { name: 'Restore it' }).click();
    await page.getByText('Release 1 is live again').first().waitFor();
    expect(
      (await stage.client.call('showEnvironment', { params: { ...params, environment: 'live' } })).data
        .release,
    ).to.equal(1);
  });

  it('checks the live pages, says what is wrong where, and can be stopped', async () => {
    await page.goto('/sites/skerrywick/check');
    await page.getByRole('button', { name: 'Check the live pages' }).click();
    await page.getByText(/^21 of 21 pages of http:\/\/skerrywick\.localhost:\d+, release \d+$/).waitFor();
    const counter = page.getByRole('listitem').filter({ hasText: 'Visit counter' });
    expect(await counter.textContent())
      .to.include('delivered on 17 pages')
      .and.include('twice on 4 pages')
      .and.include('/news/new-vessel');
    await page.route('**/verifications', () => undefined); // an answer that never comes
    await page.getByRole('button', { name: 'Check again' }).click();
    await page.getByRole('button', { name: 'Stop' }).click();
    await page.getByRole('button', { name: 'Check again' }).waitFor();
  });

  it('asks before it removes a snippet', async () => {
    await page.goto('/sites/skerrywick/snippets/works-notice');
    await page.getByRole('button', { name: 'Remove…' }).click();
    await page.getByRole('button', { name: 'Keep' }).click();
    await page.getByRole('button', { name: 'Remove…' }).click();
    await page.getByRole('button', { name: 'Remove' }).click();
    await page.waitForURL('**/strip');
    const { items } = (await stage.client.call('listSnippets', { params })).data;
    expect(items.map((item) => item.key)).not.to.include('works-notice');
  });

  it('changes the order with the mouse', async () => {
    await page.goto(`${strip('/booking')}&consent=adverts`);
    const handle = page.getByRole('button', { name: 'Move Booking pixel' });
    const target = page.getByRole('button', { name: 'Move Visit counter' });
    await handle.hover();
    const [from, to] = [(await handle.boundingBox())!, (await target.boundingBox())!];
    await page.mouse.down();
    await page.mouse.move(from.x + 5, from.y - 10, { steps: 4 });
    await page.mouse.move(to.x + 5, to.y - 4, { steps: 8 });
    await page.mouse.up();
    await page.getByText('Order changed in the draft').first().waitFor();
    const { data } = await stage.client.call('showOrder', { params });
    expect(data.lists.find((list) => list.placement === 'head-end')!.parts).to.deep.equal([
      'booking-pixel/1',
      'visit-counter/1',
      'test-flag/1',
    ]);
  });

  it('changes the site’s name and hosts, and says what is wrong with one', async () => {
    await page.goto('/sites/skerrywick/settings');
    await page.getByLabel('Name', { exact: true }).fill('Skerrywick');
    const save = page.getByRole('button', { name: 'Save', exact: true });
    await page.getByRole('link', { name: 'Hosts' }).click();
    await page.getByText('Leave without saving?').waitFor();
    await page.getByRole('button', { name: 'Stay here' }).click();
    await save.click();
    await page.getByText('Settings saved').first().waitFor();
    await page.getByRole('link', { name: 'Hosts' }).click();
    expect(await save.isDisabled()).to.equal(true);
    await page.getByRole('button', { name: 'Add a host' }).click();
    const added = page.getByRole('group', { name: /^Host 3/ });
    await added.getByLabel('Host that visitors type').fill('ferries');
    await added.getByLabel('Server that holds the pages').fill('origin');
    await save.click();
    await added.getByText('Write a whole address').waitFor();
    await added.getByLabel('Server that holds the pages').fill('http://origin.example');
    await save.click();
    await eventually(async () => {
      const { data } = await stage.client.call('showSite', { params });
      expect([data.name, data.hosts[2]?.host]).to.deep.equal(['Skerrywick', 'ferries']);
    }, 5_000);
    await eventually(async () => expect(await save.isDisabled()).to.equal(true), 5_000);
    open.problems.splice(0); // the browser notes the 422
  });

  it('archives a snippet, takes it out again, and remembers who did what', async () => {
    await page.goto('/sites/skerrywick/snippets/newsletter-form');
    await page.getByRole('button', { name: 'Archive' }).click();
    await page.getByText('“Newsletter form” is archived in the draft').first().waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('switch', { name: 'Newsletter form is on' }).waitFor();
    expect(
      (await stage.client.call('showSnippet', { params: { ...params, snippet: 'newsletter-form' } })).data
        .state,
    ).to.equal('on');
    await page.getByRole('link', { name: 'Activity' }).click();
    await page.getByText('“Newsletter form” is archived and no longer runs.').waitFor();
  });

  it('edits a snippet’s code and pages, and keeps what was typed when it is refused', async () => {
    await page.goto('/sites/skerrywick/snippets/summer-offer');
    await replaceCode(page, '<p>Eight crossings</p>');
    await unfold(page, 'Name and notes');
    await page.getByLabel('Name', { exact: true }).fill('  ');
    await page.getByRole('button', { name: 'Save to draft' }).click();
    await page.getByText('Write something here.').first().waitFor();
    expect(await page.locator('.cm-content').textContent()).to.equal('<p>Eight crossings</p>');
    await page.getByLabel('Name', { exact: true }).fill('Autumn offer');
    await unfold(page, 'On which pages?');
    await page.getByRole('radio', { name: 'Every page except some' }).click();
    await page.getByRole('button', { name: 'Save to draft' }).click();
    await page.getByRole('heading', { name: 'Autumn offer' }).waitFor();
    const { data } = await stage.client.call('showSnippet', {
      params: { ...params, snippet: 'summer-offer' },
    });
    expect(data.parts.map((entry) => entry.code)).to.deep.equal(['<p>Eight crossings</p>']);
    expect(data.pages).to.deep.equal({ include: [], exclude: ['/', '/fares', '/timetables/*'] });
    open.problems.splice(0); // the browser notes the 422
  });

  it('says what to do at addresses that lead nowhere and while the service is away', async () => {
    await page.goto('/sites/nowhere/strip');
    await page.getByText('There is no site "nowhere".').first().waitFor();
    await page.getByRole('link', { name: 'Go to the sites' }).first().click();
    await page.getByRole('heading', { name: 'Sites' }).waitFor();
    await page.goto('/no/such/room');
    await page.getByText('Page not found').waitFor();
    await page.goto('/sites/skerrywick/releases');
    await page.getByText('Everything that was ever published').waitFor();
    await page.route('**/api/v1/**', (route) => route.abort());
    await page.getByRole('link', { name: 'Activity' }).click();
    await page.getByText('The service could not be reached').waitFor();
    await page.unroute('**/api/v1/**');
    await page.getByRole('button', { name: 'Try again' }).click();
    await page.getByText('Published release 1 to staging and live').waitFor();
    open.problems.splice(0); // the browser notes the 404s and the lost calls
  });

  it('keeps what is typed while the service is away', async () => {
    await page.goto('/sites/skerrywick/settings');
    const name = page.getByLabel('Name', { exact: true });
    await name.fill('Skerrywick Lines');
    const away = page.getByText('The service could not be reached');
    await page.route('**/api/v1/**', (route) => route.abort());
    // Somebody else's change: the console asks again, in vain.
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Lost', parts: [{ placement: 'body-end', code: '<p>Lost</p>' }] },
    });
    await away.waitFor();
    expect(await name.inputValue()).to.equal('Skerrywick Lines');
    await page.unroute('**/api/v1/**');
    await page.getByRole('button', { name: 'Try again' }).click();
    await away.waitFor({ state: 'detached' });
    expect(await name.inputValue()).to.equal('Skerrywick Lines');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByText('Settings saved').first().waitFor();
    await stage.client.call('removeSnippet', { params: { ...params, snippet: 'lost' }, ifMatch: '*' });
    open.problems.splice(0); // the browser notes the lost calls
  });

  it('keeps what is typed when the session has ended, for whoever typed it', async () => {
    await page.goto('/sites/skerrywick/snippets/new');
    await replaceCode(page, '<p>Tide table</p>');
    const code = page.locator('.cm-content');
    await open.context.clearCookies();
    await stage.client.call('editSite', { params, body: { name: 'Skerrywick' }, ifMatch: '*' });
    await page.getByRole('heading', { name: 'Sign in again' }).waitFor();
    expect(await code.isVisible()).to.equal(false);
    const password = page.getByLabel('Password');
    expect(await password.evaluate((element) => element === document.activeElement)).to.equal(true);
    await password.fill('not the password');
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.getByText('name or password is wrong').first().waitFor();
    await password.fill(ADMIN.password);
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await code.waitFor();
    expect(await code.innerText()).to.contain('<p>Tide table</p>');
    open.problems.splice(0); // the browser notes the 401s
  });

  it('shows nothing of it to somebody else who signs in there', async () => {
    await makeMember(stage, 'mara', { role: 'view' });
    await page.goto('/sites/skerrywick/settings');
    const name = page.getByLabel('Name', { exact: true });
    await name.fill('Typed by admin');
    await open.context.clearCookies();
    await stage.client.call('editSite', { params, body: { name: 'Skerrywick Ferries' }, ifMatch: '*' });
    await page.getByRole('heading', { name: 'Sign in again' }).waitFor();
    await page.getByLabel('User name').fill('mara');
    await page.getByLabel('Password').fill(PASSWORD);
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await name.waitFor();
    expect(await name.inputValue()).to.equal('Skerrywick Ferries');
    expect(await page.getByRole('button', { name: 'mara' }).count()).to.equal(1);
    await open.context.request.post(`${stage.server}/api/v1/sign-in`, { data: ADMIN });
    open.problems.splice(0); // the browser notes the 401s
  });

  it('never runs pasted code, and shows it as text', async () => {
    const code = '<img src=x onerror="document.title=\'owned\'"><script>document.title="owned"</script>';
    await stage.client.call('createSnippet', {
      params,
      body: { name: '<b>Bold</b>', state: 'on', parts: [{ placement: 'body-start', code }] },
    });
    await page.goto(strip('/'));
    await page.getByRole('link', { name: '<b>Bold</b>' }).click();
    await page.locator('.cm-content').getByText('onerror').waitFor();
    expect(await page.title()).to.equal('Pragmatica');
  });

  it('is whole at 390 pixels: nothing sticks out sideways', async () => {
    await page.setViewportSize({ width: 390, height: 844 });
    for (const path of [
      '/',
      strip('/booking'),
      '/sites/skerrywick/snippets/new',
      '/sites/skerrywick/releases',
      '/sites/skerrywick/activity',
    ]) {
      await page.goto(path);
      await page.getByRole('heading', { level: 1 }).waitFor();
      await page.waitForTimeout(300);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).to.be.at.most(390);
    }
  });

  it('follows the system’s dark colours, and the button', async () => {
    await page.emulateMedia({ colorScheme: 'dark' });
    await page.goto('/');
    const background = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    await page.getByRole('button', { name: 'Switch to light mode' }).waitFor();
    const dark = await background();
    await page.getByRole('button', { name: 'Switch to light mode' }).click();
    expect(await background()).not.to.equal(dark);
  });
});

describe('the console’s door', function () {
  this.timeout(180_000);
  it('asks for the one-time password’s replacement, then lets in', async () => {
    const stage = await startStage({ hasDemo: false });
    const browser = await startBrowser();
    try {
      const database = new pg.Client({ connectionString: stage.databaseUrl });
      await database.connect();
      await database.query('update member set must_change_password = true');
      await database.end();
      const { page } = await openConsole(browser, stage, DESKTOP, false);
      await page.goto('/');
      await page.getByLabel('Name').fill('admin');
      await page.getByLabel('Password').fill('wrong');
      await page.getByRole('button', { name: 'Sign in', exact: true }).click();
      await page.getByText('Name or password is wrong').waitFor();
      await page.getByLabel('Password').fill('a long and quiet password');
      await page.getByRole('button', { name: 'Sign in', exact: true }).click();
      await page.getByLabel('One-time password').fill('a long and quiet password');
      await page.getByLabel('New password').fill('entirely my own');
      await page.getByLabel('Repeat password').fill('entirely else');
      await page.getByText('The passwords differ.').waitFor();
      await page.getByLabel('Repeat password').fill('entirely my own');
      await page.getByRole('button', { name: 'Set password' }).click();
      await page.getByText('No sites yet').waitFor();
      await page.getByRole('button', { name: 'Add a site' }).first().click();
      await page.getByLabel('Address of the site').fill('not an address');
      await page.getByRole('button', { name: 'Have a look' }).click();
      await page.getByText('“not an address” is not a site’s address').waitFor();
    } finally {
      await browser.close();
      await stage.close();
    }
  });
});
