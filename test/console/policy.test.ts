import { expect } from 'chai';
import { send } from '../support/http.js';
import { useConsole } from '../support/hooks.js';
import { survey } from '../support/surveys.js';

const HOST = 'skerrywick.localhost';

describe('the content policy in the console', function () {
  this.timeout(90_000);
  const open = useConsole({ hasWorker: true });

  it('asks for a survey first, then goes on trial, and is enforced when somebody has looked at the reports', async () => {
    const { page, stage } = open();
    await page.goto('/sites/skerrywick/delivery');
    await page.getByRole('link', { name: 'Open content policy' }).click();
    await page.getByText('No survey of this host yet').waitFor();
    expect(await page.getByRole('button', { name: 'Start the trial' }).count()).to.equal(0);
    await survey(stage, 'skerrywick');
    await page.reload();
    const present = page.getByRole('region', { name: 'What pages have now' });
    await present.getByText(/Blocks Cookie question, /).waitFor();
    await page.getByRole('row', { name: /Visit counter script-src tallymast/ }).waitFor();
    await page.getByRole('button', { name: 'Start the trial' }).click();
    await page.getByText('Nothing is blocked.', { exact: false }).first().waitFor();

    const report = {
      'document-uri': `http://${HOST}/fares`,
      'effective-directive': 'img-src',
      'blocked-uri': 'http://tallymast.localhost/tell',
      disposition: 'report',
    };
    await send({
      ...{ port: stage.gatewayPort, host: 'code.example.com', path: '/policy-reports', method: 'POST' },
      body: JSON.stringify({ 'csp-report': report }),
    });
    const reports = page.getByRole('region', { name: 'What browsers report' });
    // It looks again by itself.
    await reports.getByText('“Visit counter” loads it.', { exact: false }).waitFor();
    await page.getByRole('button', { name: 'Enforce it…' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('One kind of report is open below.', { exact: false }).waitFor();
    await dialog.getByRole('button', { name: 'Not yet' }).click();
    await reports.getByRole('button', { name: 'Allow tallymast.localhost' }).click();
    await page.getByText('img-src allows tallymast.localhost now').first().waitFor();
    await reports.getByRole('button', { name: 'Clear the list' }).click();
    await reports.getByText('No reports yet.', { exact: false }).waitFor();
    await page.getByRole('button', { name: 'Enforce it…' }).click();
    await dialog.getByText('Browsers have reported nothing so far.', { exact: false }).waitFor();
    await dialog.getByRole('button', { name: 'Enforce it' }).click();
    await page.getByRole('button', { name: 'Back to trial' }).waitFor();

    const own = page.getByRole('region', { name: 'The policy for pages without one' });
    await own.getByRole('button', { name: 'Don’t allow tallymast.localhost any more' }).click();
    await page.getByText('img-src doesn’t allow tallymast.localhost any more').first().waitFor();
    await page.getByRole('button', { name: 'Stop sending it' }).click();
    await page.getByRole('button', { name: 'Start the trial' }).waitFor();
  });

  it('gives the text to copy where the gateway does not stand', async () => {
    const { page, stage } = open();
    const params = { site: 'skerrywick' };
    const { data, etag } = await stage.client.call('showSite', { params });
    const hosts = data.hosts.map((one) => ({ ...one, delivery: 'line' as const }));
    await stage.client.call('editSite', { params, ifMatch: etag, body: { hosts } });
    await page.goto('/sites/skerrywick/delivery/policy');
    await page.getByText('don’t come through the gateway', { exact: false }).waitFor();
    await page.getByRole('row', { name: /the one line script-src code\.example\.com/ }).waitFor();
    await page.getByText('reports go to https://code.example.com/policy-reports', { exact: false }).waitFor();
    await page
      .getByRole('button', { name: /^Copy \d+ pages like/ })
      .first()
      .waitFor();
    expect(await page.getByRole('button', { name: 'Start the trial' }).count()).to.equal(0);
  });
});
