import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { choosePage, openConsole, quiet, startBrowser } from '../support/browser.js';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, linking, ownSite, survey, type OwnSite } from '../support/surveys.js';

/** Code as a stranger writes it: it must be shown, and never run. */
const HOSTILE = `<script src="https://nudgelet.example/n.js"></script><script>window.ran = '</mark><img src=x onerror="window.ran=1">'</script>`;

describe('the real site in the console', function () {
  this.timeout(90_000);
  let stage: Stage;
  let browser: Browser;
  let site: OwnSite;
  const many = Array.from({ length: 260 }, (_, i) => `/part/page-${String(i).padStart(3, '0')}`);

  before(async () => {
    [stage, browser] = await Promise.all([startStage({ hasWorker: true }), startBrowser()]);
    site = await ownSite({
      '/': linking(...many, '/secret') + HOSTILE,
      ...Object.fromEntries(many.map((path, i) => [path, `<title>Page ${i}</title><p>x</p>`])),
    });
    await addSite(stage, 'many', site.port);
    await survey(stage, 'many');
  });

  after(async () => {
    await browser.close();
    site.close();
    await stage.close();
  });

  it('says what a survey is for, makes one, and shows what it found, the double first', async () => {
    const { page, context, problems } = await openConsole(browser, stage);
    await page.goto('/sites/skerrywick/survey');
    await page.getByText('Find out what is already in the pages').waitFor();
    await page.getByRole('button', { name: 'Survey the site' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Survey the site' }).click();
    await page.getByRole('status').getByText('21 pages').waitFor();
    const first = page.locator('main ul > li').first();
    await first.getByText('Tallymast visit counter').waitFor();
    expect(await first.innerText()).to.match(/Also in the site\s+4 pages/);
    await first.getByRole('button').click();
    await first.getByText('probably in the template of these pages').waitFor();
    expect(await first.locator('mark').innerText()).to.match(/^<script async src=.*<\/script>$/);
    // That there was no survey yet is an answer, which the browser's log calls an error.
    expect(problems.filter((text) => !text.includes('404'))).to.deep.equal([]);
    await context.close();
  });

  it('leaves a sighting alone and tells of it again', async () => {
    const { page, context } = await openConsole(browser, stage);
    await page.goto('/sites/many/survey?standing=foreign');
    const row = page.locator('main ul > li').filter({ hasText: 'Nudgelet' });
    await row.getByRole('button').first().click();
    await row.getByRole('button', { name: 'Ignore' }).click();
    await page.getByLabel('Why?').fill('It goes in spring.');
    await page.getByRole('dialog').getByRole('button', { name: 'Ignore' }).click();
    await row.waitFor({ state: 'detached' });
    await page.getByLabel('Show ignored').check();
    await row.getByText('Ignored by admin: It goes in spring.').waitFor();
    await row.getByRole('button', { name: 'Stop ignoring' }).click();
    await row.getByRole('button', { name: 'Ignore' }).waitFor();
    await context.close();
  });

  it('shows code that a stranger wrote as text, and adopts it as a snippet that is off', async () => {
    const { page, context } = await openConsole(browser, stage);
    await page.goto('/sites/many/survey');
    const row = page.locator('main ul > li').filter({ hasText: 'Nudgelet' });
    await row.getByRole('button').first().click();
    await row.locator('mark').waitFor();
    expect(await page.evaluate('window.ran')).to.equal(undefined);
    expect(await row.locator('pre').innerText()).to.include(`<img src=x onerror="window.ran=1">`);
    await row.getByRole('button', { name: 'Adopt' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('on /', { exact: true }).waitFor();
    await dialog.getByLabel('Name of the snippet').fill('Spring offer');
    await dialog.getByRole('button', { name: 'Adopt' }).click();
    await page.getByRole('region').getByText('is in the draft, switched off').waitFor();
    await row.getByText('“Spring offer” installs the same, but is off').waitFor();
    const { data } = await stage.client.call('showSnippet', {
      params: { site: 'many', snippet: 'spring-offer' },
    });
    expect(data).to.deep.include({ state: 'off', pages: { include: ['/'], exclude: [] } });
    await context.close();
  });

  it('opens a section of the coverage into its pages', async () => {
    const { page, context } = await openConsole(browser, stage);
    await survey(stage, 'skerrywick');
    await page.goto('/sites/skerrywick/survey/coverage');
    await page.getByText('Every snippet is on every page where it should be.').waitFor();
    const cell = page.getByRole('img', { name: 'Visit counter: on all 4 pages of /news' });
    await cell.waitFor();
    await page.getByRole('button', { name: /^\/news/ }).click();
    await page.getByRole('group', { name: 'Pages of /news' }).getByText('/news/winter-works').waitFor();
    await page.getByText('/news/winter-works').click();
    await page.getByRole('heading', { name: '/news/winter-works' }).waitFor();
    const head = page.locator('ol > li').filter({ hasText: 'Tallymast visit counter' });
    expect(await head.allInnerTexts()).to.deep.equal([
      'Tallymast visit counter\nscript\nAlso in the site',
      'Tallymast visit counter\nscript\nOurs',
    ]);
    await context.close();
  });

  it('draws in the page strip what the page has itself, between our parts', async () => {
    const { page, context, problems } = await openConsole(browser, stage);
    await page.goto('/sites/skerrywick/strip?path=%2Fnews');
    const own = page.getByRole('list', { name: 'Already in the page' });
    await own.getByText('Tallymast visit counter').waitFor();
    expect(await own.getByRole('listitem').allInnerTexts()).to.deep.equal([
      'assets/site.css\nstyle',
      'Tallymast visit counter\nscript\nAlso in the site',
    ]);
    await choosePage(page, 'What a visitor of', '/fares');
    await own.getByText('Tallymast visit counter').waitFor({ state: 'detached' });
    expect(problems).to.deep.equal([]);
    await context.close();
  });

  it('draws of many pages only those in sight, fetches more while one scrolls, and finds one by its words', async () => {
    const { page, context } = await openConsole(browser, stage);
    await page.goto('/sites/many/survey/pages?section=%2Fpart');
    await page.getByText('260 pages').waitFor();
    const list = page.getByRole('group', { name: 'Pages', exact: true });
    expect(await list.getByRole('link').count()).to.be.below(60);
    for (let i = 0; i < 20 && (await page.getByText('/part/page-259').count()) === 0; i++) {
      await list.evaluate((frame) => frame.scrollTo(0, frame.scrollHeight));
      await quiet(page);
    }
    await page.getByText('/part/page-259').waitFor();
    await page.getByLabel('Find a page by path or title').fill('page-123');
    await page.getByText('One page').waitFor();
    await page.getByRole('link', { name: /page-123/ }).waitFor();
    await page.getByRole('button', { name: 'All sections' }).click();
    await page.getByLabel('Find a page by path or title').fill('');
    await page.getByRole('button', { name: 'Problems' }).click();
    await page.getByText('answered with error 404').waitFor();
    await context.close();
  });

  it('says why a survey failed, and lists what each one saw anew', async () => {
    const { page, context } = await openConsole(browser, stage);
    await page.goto('/sites/skerrywick/survey/history');
    await page
      .getByText('Nothing has changed since survey')
      .or(page.getByText('This is the first survey'))
      .waitFor();
    const closed = await ownSite({ '/robots.txt': (_, response) => response.writeHead(500).end() });
    await addSite(stage, 'closed', closed.port);
    await survey(stage, 'closed');
    await page.goto('/sites/closed/survey');
    await page.getByRole('alert').getByText('robots.txt answered with error 500').waitFor();
    closed.close();
    await context.close();
  });
});
