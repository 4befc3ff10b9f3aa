import { expect } from 'chai';
import { useConsole } from '../support/hooks.js';
import { ownSite, type OwnSite } from '../support/surveys.js';

describe('adding a site in the console', function () {
  this.timeout(60_000);
  const open = useConsole({ hasDemo: false, hasWorker: true });
  let site: OwnSite;

  before(async () => {
    site = await ownSite({
      '/': '<title>Home | Tide Mill</title><script src="https://tallymast.example/count.js"></script>',
    });
  });
  after(() => site.close());

  it('asks for nothing but the address, says what is there, and finds the way that suits', async () => {
    const { page, stage } = open();
    await page.goto('/');
    await page.getByRole('button', { name: 'Add a site' }).first().click();
    await page.getByLabel('Address of the site').fill(`mill.localhost:${site.port}`);
    await page.getByRole('button', { name: 'Have a look' }).click();
    await page.getByRole('heading', { name: 'A first look at Tide Mill' }).waitFor();
    const seen = page.getByRole('region', { name: 'What we saw' });
    await seen.getByText('Already in them: Tallymast visit counter.').waitFor();
    // Until more is said, the one line is what suits most.
    await page.getByText('/one/tide-mill.js"></script>').first().waitFor();
    const finder = page.getByRole('region', { name: 'Which way suits this site?' });
    for (const answer of ['No', 'No', 'Yes']) await finder.getByRole('button', { name: answer }).click();
    await finder.getByText('Use a folder of files.').waitFor();
    await finder.getByRole('button', { name: 'Use this way' }).click();
    await page.getByText('The site now gets its code by a folder of files').first().waitFor();
    await page.getByText('pragmatica insert FOLDER --site tide-mill').waitFor();
    const { data } = await stage.client.call('showSite', { params: { site: 'tide-mill' } });
    expect(data.hosts).to.deep.equal([
      {
        ...{ host: 'mill.localhost', environment: 'live', delivery: 'folder', transfer: 'auto' },
        origin: `http://mill.localhost:${site.port}`,
        address: `http://mill.localhost:${site.port}`,
      },
    ]);
  });

  it('delivers each host in its own way, changed where the ways are compared', async () => {
    const { page, stage } = open();
    await page.goto('/sites/tide-mill/delivery');
    await page.getByLabel('How mill.localhost gets its code').selectOption('the one line, async');
    await page.getByText('mill.localhost now gets its code in a different way').first().waitFor();
    const { data } = await stage.client.call('showSite', { params: { site: 'tide-mill' } });
    expect(data.hosts[0]!.delivery).to.equal('async-line');
  });
});
