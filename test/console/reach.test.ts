import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { eventually } from '../support/http.js';
import { useConsole } from '../support/hooks.js';
import type { Stage } from '../support/stage.js';

describe('who gets it, in the console', function () {
  this.timeout(180_000);
  const started = useConsole({ isWhole: true });
  let stage: Stage;
  let page: Page;
  before(() => ({ stage } = started()));
  beforeEach(() => ({ page } = started()));

  const params = { site: 'skerrywick' };

  it('asks about a page load, in an address that can be sent to somebody', async () => {
    await page.goto('/sites/skerrywick/strip?path=%2Fbooking&of=draft');
    const left = page.getByRole('region', { name: 'Not on this page' }).filter({ visible: true });
    await left.getByText('Waits for consent: Adverts.').waitFor();
    await page.getByRole('button', { name: 'Adverts' }).click();
    await page.locator('section[aria-label^="The page"]').getByText('Booking pixel').waitFor();
    expect(await page.getByLabel('Time at the site').count()).to.equal(0);
    await page.getByLabel('Time', { exact: true }).selectOption('another time');
    expect(await page.getByLabel('Time at the site').inputValue()).to.match(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/);
    await page.getByLabel('Time', { exact: true }).selectOption('now');
    await page.getByLabel('Environment').selectOption('staging');
    await page.locator('section[aria-label^="The page"]').getByText('Test flag').waitFor();
    expect(new URL(page.url()).searchParams.toString()).to.equal(
      'path=%2Fbooking&of=draft&environment=staging&consent=adverts',
    );
    await page.reload();
    await page.locator('section[aria-label^="The page"]').getByText('Test flag').waitFor();
    await page.getByRole('button', { name: 'Reset' }).click();
    await left.getByText('It runs only on staging, and this is live.').waitFor();
  });

  it('changes a reach as a sentence, with its week beside it', async () => {
    await page.goto('/sites/skerrywick/snippets/newsletter-form#reach');
    const reach = page.locator('#reach');
    await reach.getByText('always and for everybody').waitFor();
    await reach.getByRole('button', { name: 'desktops' }).click();
    await reach.getByLabel('Hours', { exact: true }).selectOption('during set hours');
    await reach.getByLabel('Monday from').fill('08:30');
    await reach.getByRole('button', { name: 'Use Monday’s hours on all weekdays' }).click();
    await reach.getByLabel('Closed every year on').fill('12-25');
    await reach.getByRole('button', { name: 'Adverts' }).click();
    await reach.getByText('Delay or limit').click();
    await reach.getByLabel('Delay (seconds)').fill('5');
    await reach
      .getByText(
        'only on phones and tablets, Mon–Fri 08:30–17:00, closed on 25 December, with consent to Adverts, after 5 seconds',
      )
      .waitFor();
    expect(await reach.getByRole('figure', { name: 'The week’s hours' }).textContent()).to.match(
      /Mon.*08:30–17:00/,
    );
    await reach.getByLabel('Tuesday from').fill('18:00');
    await reach.getByLabel('Tuesday to').fill('18:00');
    await reach.getByText('18:00 to 18:00 is no time.').waitFor();
    await reach.getByLabel('Tuesday to').fill('19:00');
    await page.getByRole('button', { name: 'Save to draft' }).click();
    await page.getByText('Saved to the draft').first().waitFor();
    const { data } = await stage.client.call('showSnippet', {
      params: { ...params, snippet: 'newsletter-form' },
    });
    expect(data.limits).to.deep.include({
      devices: ['phone', 'tablet'],
      consent: ['adverts'],
      visitor: { afterSeconds: 5 },
    });
    expect(data.limits.hours).to.deep.include({ closed: ['12-25'] });
  });

  it('defines a page group and uses it', async () => {
    await page.goto('/sites/skerrywick/settings/pages');
    await page.getByRole('button', { name: 'Add a page group' }).click();
    const group = page.getByRole('group', { name: 'Page group 3' });
    await group.getByLabel('Name of the group').fill('The islands');
    await group.getByLabel('Pages, one per line').fill('/islands\n/islands/*');
    await group.getByText('4 of 21 known pages').waitFor();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByText('Settings saved').first().waitFor();
    await page.goto('/sites/skerrywick/snippets/works-notice#pages');
    await page.getByText('Only some pages').click();
    await page.getByRole('button', { name: 'The islands' }).click();
    await page.getByText('4 of 21 known pages').waitFor();
  });

  it('finds a site among many', async () => {
    await page.goto('/');
    await page.getByLabel('Find a site').fill('tern');
    await eventually(async () => expect(await page.getByRole('article').count()).to.equal(1));
    await page.getByRole('link', { name: 'Tern Island Hostel' }).waitFor();
    await page.getByLabel('Find a site').fill('nowhere');
    await page.getByText('No site has “nowhere” in its name or hosts.').waitFor();
    await page.getByLabel('Find a site').fill('');
    await page.getByRole('button', { name: /^Need attention/ }).click();
    const { counts } = (await stage.client.call('listSites', { query: {} })).data;
    expect(counts.attention).to.be.within(1, counts.all - 1);
    await eventually(async () => expect(await page.getByRole('article').count()).to.equal(counts.attention));
  });

  it('changes a field on many sites in one table', async () => {
    await page.goto('/fields');
    await page.getByText('Still the example: not set yet.').waitFor();
    await page.getByLabel('Account at Tallymast, Quay Kitchen', { exact: true }).fill('TM 19');
    await page.getByText('Use only letters, digits').waitFor();
    expect(await page.getByRole('button', { name: /^Save/ }).isDisabled()).to.equal(true);
    await page.getByLabel('Account at Tallymast, Quay Kitchen', { exact: true }).fill('TM-1904');
    await page.getByLabel('Account at Tallymast, Port Hallow Harbour, staging').fill('TM-9');
    await page.getByRole('button', { name: 'Save 2 values' }).click();
    await page.getByText('Fields saved').first().waitFor();
    const { data } = await stage.client.call('showSite', { params: { site: 'quay-kitchen' } });
    expect(data.fields[0]!.value).to.equal('TM-1904');
  });

  it('copies a snippet to other sites, and publishes several at once', async () => {
    await page.goto('/sites/skerrywick/snippets/tag-container');
    await page.getByRole('button', { name: 'Copy to other sites…' }).click();
    await page.getByLabel('Tern Island Hostel').check();
    await page.getByRole('button', { name: 'Copy to 1 site' }).click();
    await page.getByText('Its fields came along without values: container.').waitFor();
    await page.goto('/');
    await page.getByRole('button', { name: 'Publish several…' }).click();
    await page.getByLabel('What does it change?').fill('Counters everywhere');
    await page.getByRole('button', { name: /^Publish \d sites$/ }).click();
    const results = page.getByRole('dialog');
    await results.getByText('Quay Kitchen: release 1 is live.').waitFor();
    await results.getByText(/Tern Island Hostel: .*errors?/).waitFor();
    started().problems.splice(0); // the browser notes the 422
  });
});
