import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { useConsole } from '../support/hooks.js';

describe('the help in the console', function () {
  this.timeout(120_000);
  const started = useConsole({ isWhole: true });
  let page: Page;
  beforeEach(() => ({ page } = started()));

  const isInSight = async (name: string): Promise<boolean> =>
    page.getByRole('heading', { name, exact: true }).evaluate((heading) => {
      const { top } = heading.getBoundingClientRect();
      return top >= 0 && top < innerHeight;
    });

  it('finds a place by its words, and leads there', async () => {
    await page.goto('/help');
    await page.getByRole('heading', { level: 1, name: 'Help' }).waitFor();
    await page.getByLabel('Search the help').fill('one line nonc');
    await page
      .getByRole('link', { name: /The one line/ })
      .first()
      .click();
    await page.getByRole('heading', { level: 1, name: 'Without the gateway' }).waitFor();
    expect(new URL(page.url()).pathname).to.equal('/help/without-the-gateway');
    await page.getByRole('navigation', { name: 'On this page' }).waitFor();
    await page.goto('/help?q=zzzz');
    await page.getByText('Nothing found for “zzzz”').waitFor();
  });

  it('shows documents with their pictures, and stays in the console where they lead to each other', async () => {
    await page.goto('/help/tour');
    const picture = page.getByRole('img').first();
    await picture.scrollIntoViewIfNeeded();
    await page.waitForFunction(
      () => (document.querySelector('article img') as HTMLImageElement).naturalWidth > 0,
    );
    await page.getByRole('article').getByRole('link', { name: 'All about visits' }).click();
    await page.getByRole('heading', { level: 1, name: /^Visits/ }).waitFor();
  });

  it('tells of a finding from the finding, and of a refusal from the refusal', async () => {
    await page.goto('/sites/skerrywick/findings');
    const link = page.getByRole('link', { name: /^More about this/ }).first();
    const address = (await link.getAttribute('href'))!;
    expect(address).to.match(/^\/help\/checks#[\w-]+$/);
    await page.goto(address);
    await page.getByRole('heading', { level: 1, name: 'Checks' }).waitFor();
    expect(await isInSight(address.split('#')[1]!)).to.equal(true);
    await page.goto('/sites/nowhere/strip');
    expect(await page.getByRole('link', { name: 'What this means' }).first().getAttribute('href')).to.equal(
      '/help/errors#not-found-404',
    );
    await page.waitForLoadState('networkidle');
    started().problems.splice(0); // the browser notes the 404
  });

  it('fits a phone, whatever a page has in it', async () => {
    await page.setViewportSize({ width: 390, height: 844 });
    for (const name of ['', '/checks', '/commands', '/without-the-gateway', '/reach', '/first-steps']) {
      await page.goto(`/help${name}`);
      await page.getByRole('heading', { level: 1 }).waitFor();
      expect(await page.evaluate(() => document.documentElement.scrollWidth), name).to.equal(390);
    }
  });

  it('says that there is no such page', async () => {
    await page.goto('/help/nowhere');
    await page.getByText('There is no such help page.').waitFor();
  });
});
