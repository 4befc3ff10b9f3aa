import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { replaceCode } from '../support/browser.js';
import { useConsole } from '../support/hooks.js';
import type { Stage } from '../support/stage.js';

describe('recipes in the console', function () {
  this.timeout(180_000);
  const started = useConsole({ isWhole: true });
  let stage: Stage;
  let page: Page;
  let problems: string[];
  before(() => ({ stage } = started()));
  beforeEach(() => ({ page, problems } = started()));

  const snippetOf = async (site: string, snippet: string) =>
    (await stage.client.call('showSnippet', { params: { site, snippet } })).data;

  it('are found by what they do, and say what they install and ask for', async () => {
    await page.goto('/');
    await page.getByRole('link', { name: 'Recipes' }).click();
    await page.getByText('5 snippets follow an older version of their recipes.').waitFor();
    await page.getByLabel('Find a recipe').fill('passes nothing');
    await page.getByText('No recipe matches “passes nothing”.').waitFor();
    await page.getByLabel('Find a recipe').fill('pass page');
    await page.getByRole('link', { name: 'Sharebuoy buttons' }).waitFor();
    expect(await page.getByRole('article').count()).to.equal(1);
    await page.getByLabel('Find a recipe').fill('crateline');
    await page.getByRole('link', { name: 'Crateline container' }).click();
    await page.getByRole('heading', { level: 1, name: 'Crateline container' }).waitFor();
    const puts = page.getByRole('region', { name: 'What it adds to a page' });
    await puts.getByText('At the start of the head').waitFor();
    await puts.getByText('At the start of the body').waitFor();
    await page
      .getByRole('region', { name: 'What it asks for' })
      .getByText('Container at Crateline')
      .waitFor();
    await page.getByRole('link', { name: 'Tag container' }).waitFor();
  });

  it('are installed on several sites at once, asked only for what differs', async () => {
    await page.goto('/recipes/parlanook-chat/apply');
    await page.getByRole('button', { name: 'Choose a site' }).waitFor();
    await page.getByLabel('Skerrywick Ferries').click();
    await page.getByText('A second one there needs a name of its own.').waitFor();
    await page.getByLabel('Skerrywick Ferries').click();
    await page.getByRole('checkbox', { name: 'Port Hallow Harbour' }).click();
    await page.getByRole('checkbox', { name: 'Tern Island Hostel' }).click();
    await page.getByLabel('Room at Parlanook, Port Hallow Harbour').fill('har bour');
    await page.getByText('Use only letters, digits').waitFor();
    expect(await page.getByRole('button', { name: 'Install on 2 sites' }).isDisabled()).to.equal(true);
    await page.getByLabel('Room at Parlanook, Port Hallow Harbour').fill('harbour');
    await page.getByLabel('What the button says, Port Hallow Harbour').fill('Ask the harbour');
    await page.getByRole('button', { name: 'Install on 2 sites' }).click();
    const results = page.getByRole('region', { name: 'Results' });
    await results.getByText('“Parlanook chat” is in the draft: at the end of the body.').first().waitFor();
    await results.getByText('Before you can publish it, fill in: Room at Parlanook').waitFor();
    await results.getByRole('link', { name: 'checklist of Port Hallow Harbour' }).click();
    await page.getByRole('checkbox', { name: /Register port-hallow\.localhost in Parlanook/ }).waitFor();
    const { data } = await stage.client.call('showPlan', {
      params: { site: 'port-hallow' },
      query: { path: '/', of: 'draft' },
    });
    expect(data.parts.find(({ name }) => name === 'Parlanook chat')!.code).to.include(
      "{ room: 'harbour', greeting: 'Ask the harbour' }",
    );
  });

  it('are installed on one site with a value of its own on staging', async () => {
    await page.goto('/sites/skerrywick/snippets/new');
    await page.getByRole('link', { name: 'install it from a recipe' }).click();
    await page.getByRole('link', { name: 'Sharebuoy buttons' }).click();
    await page.getByRole('link', { name: 'Install it on sites' }).click();
    expect(await page.getByLabel('Colour of the buttons', { exact: true }).inputValue()).to.equal('#0f5566');
    await page.getByLabel('Colour of the buttons, on staging').fill('#c00');
    await page.getByRole('button', { name: 'Install on Skerrywick Ferries' }).click();
    await page.getByText('“Sharebuoy buttons” is in the draft').waitFor();
    const { data } = await stage.client.call('showSite', { params: { site: 'skerrywick' } });
    expect(data.fields.find(({ name }) => name === 'share_colour')).to.include({
      value: '#0f5566',
      staging: '#c00',
    });
  });

  it('are named while their code is pasted by hand', async () => {
    await page.goto('/sites/skerrywick/snippets/new');
    const { providerPort } = stage;
    await replaceCode(page, `<script src="http://pierlist.localhost:${providerPort}/list.js"></script>`);
    await page.getByText('There is a recipe for this: “Pierlist directory”.').waitFor();
    await page.getByRole('link', { name: 'See the recipe' }).click();
    await page.getByRole('heading', { level: 1, name: 'Pierlist directory' }).waitFor();
  });

  it('bring installs up after showing what would change, one by one and all', async () => {
    await page.goto('/sites/port-hallow/snippets/visit-counter');
    await page.getByText('Version 2 is out.').waitFor();
    await page.getByRole('link', { name: 'See what would change' }).click();
    await page.getByText('“Visit counter” follows version 2 of its recipe; before, version 1.').waitFor();
    expect(await page.getByRole('button', { name: 'Update', exact: true }).count()).to.equal(1);
    await page.getByRole('button', { name: 'Update', exact: true }).click();
    await page.getByText('This snippet follows the newest version of its recipe.').waitFor();
    expect((await snippetOf('port-hallow', 'visit-counter')).recipe!.version).to.equal(2);
    await page.goto('/recipes/updates');
    await page.getByRole('button', { name: 'Update all 4' }).click();
    await page.getByText('Every snippet follows the newest version of its recipe.').waitFor();
    expect((await snippetOf('skerrywick', 'visit-counter')).parts[0]!.code).to.include('data-titles="yes"');
  });

  it('are made of a snippet and get a next version, and what was changed by hand is replaced only when asked', async () => {
    const params = { site: 'tern-hostel' };
    const code = '<script async src="https://cdn.tidegauge.example/g.js?site=TG-55812"></script>';
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Tide gauge', parts: [{ placement: 'head-end', code }] },
    });
    await page.goto('/sites/tern-hostel/snippets/tide-gauge');
    await page.getByRole('button', { name: 'Create a recipe…' }).click();
    await page.getByText('Site at tidegauge.example').waitFor();
    await page.getByRole('button', { name: 'Create recipe' }).click();
    await page.getByRole('heading', { level: 1, name: 'Tide gauge' }).waitFor();
    await stage.client.call('applyRecipe', {
      params: { recipe: 'tide-gauge' },
      body: { targets: [{ site: 'quay-kitchen', values: [{ name: 'site', value: 'TG-1' }] }] },
    });
    const edit = async (site: string, changed: string): Promise<void> => {
      const target = { site, snippet: 'tide-gauge' };
      const { etag } = await stage.client.call('showSnippet', { params: target });
      const body = { parts: [{ placement: 'head-end' as const, code: changed }] };
      await stage.client.call('editSnippet', { params: target, ifMatch: etag, body });
    };
    const next = '<script defer src="https://cdn.tidegauge.example/g.js?site=@{site}"></script>';
    await edit('tern-hostel', next);
    await edit(
      'quay-kitchen',
      '<script async src="https://cdn.tidegauge.example/g.js?site=@{site}&own=1"></script>',
    );
    await page.goto('/sites/tern-hostel/snippets/tide-gauge');
    await page.getByRole('button', { name: 'Create the next version…' }).click();
    await page.getByLabel('What is new').fill('It waits for the page.');
    await page.getByRole('button', { name: 'Create version 2' }).click();
    await page.getByRole('region', { name: 'Versions' }).getByText('It waits for the page.').waitFor();
    await page.getByRole('link', { name: 'outdated', exact: true }).click();
    await page.getByText('the recipe’s new code takes its place').waitFor();
    await page.getByRole('button', { name: 'Overwrite changes made by hand' }).click();
    await page.getByText('This snippet follows the newest version of its recipe.').waitFor();
    expect((await snippetOf('quay-kitchen', 'tide-gauge')).parts[0]!.code).to.equal(next);
  });

  it('let a snippet go its own way', async () => {
    await page.goto('/sites/tern-hostel/snippets/tide-gauge');
    await page.getByRole('button', { name: 'Detach from recipe' }).click();
    await page.getByText('Pasted by hand; it looks like').waitFor();
    expect((await snippetOf('tern-hostel', 'tide-gauge')).recipe).to.equal(null);
  });

  it('take over what was pasted by hand', async () => {
    await page.goto('/sites/skerrywick/snippets/summer-offer');
    await page.getByText('Pasted by hand; it looks like').waitFor();
    await page.getByRole('button', { name: 'Follow the recipe' }).click();
    await page.getByText('Follows the recipe').waitFor();
    await page.locator('.cm-content').getByText('@{nudge_text}').waitFor();
    const { data } = await stage.client.call('showSite', { params: { site: 'skerrywick' } });
    expect(data.fields.find(({ name }) => name === 'nudge')!.value).to.equal('ten-crossings');
  });

  it('are imported from a file, or refused with what is wrong with it', async () => {
    await page.goto('/recipes');
    const files = page.getByLabel('Recipe files');
    const file = (name: string, content: string) => ({
      name,
      mimeType: 'application/json',
      buffer: Buffer.from(content),
    });
    await files.setInputFiles(file('notes.json', 'Dear all'));
    await page.getByText('notes.json is not a recipe').first().waitFor();
    await files.setInputFiles(file('empty.json', JSON.stringify({ format: 'pragmatica-recipe/1' })));
    await page.getByText('Something in the request is not right').first().waitFor();
    const { data } = await stage.client.call('exportRecipe', {
      params: { recipe: 'easewheel-menu', version: 1 },
    });
    await files.setInputFiles(
      file('menu.json', JSON.stringify({ ...data, version: 2, changes: 'Rounder.' })),
    );
    await page.getByRole('heading', { level: 1, name: 'Easewheel menu' }).waitFor();
    await page.getByText('Rounder.').waitFor();
    problems.splice(0); // the browser notes the 422
  });

  it('are retired with what to use instead, which their installs then say, and brought back', async () => {
    await page.goto('/recipes/easewheel-menu');
    await page.getByRole('button', { name: 'Retire…' }).click();
    await page.getByLabel('Why?').fill('It ends in May.');
    await page.getByLabel('What to use instead').selectOption('sharebuoy-buttons');
    await page.getByRole('button', { name: 'Retire' }).click();
    const retired = page.getByText('Retired: It ends in May. Use');
    await retired.waitFor();
    await page.goto('/sites/skerrywick/findings');
    await page.getByText('“Accessibility menu” uses a retired install: “Easewheel menu”').waitFor();
    await page.goto('/recipes/easewheel-menu');
    await page.getByRole('button', { name: 'Bring it back' }).click();
    await page.getByText('is no longer retired').first().waitFor();
    await retired.waitFor({ state: 'detached' });
  });

  it('have a checklist, ticked with name and time, which takes the finding away', async () => {
    await page.goto('/sites/skerrywick/findings');
    const title = '“Harbour chat”: staging.skerrywick.localhost is not registered with Parlanook';
    await page.getByText(title).waitFor();
    await page.getByRole('link', { name: 'Open the checklist' }).first().click();
    await page.getByText('11 of 12 done.').waitFor();
    await page
      .getByRole('checkbox', { name: /Register staging\.skerrywick\.localhost in Parlanook/ })
      .click();
    await page.getByText('All done.').waitFor();
    await page
      .getByRole('listitem')
      .filter({ hasText: 'staging.skerrywick' })
      .getByText(/^admin, /)
      .waitFor();
    await page.getByRole('link', { name: 'Findings' }).click();
    await page.getByRole('heading', { level: 1, name: 'Findings' }).waitFor();
    await page.getByText(title).waitFor({ state: 'detached' });
  });

  it('are whole at 390 pixels: nothing sticks out sideways', async () => {
    await page.setViewportSize({ width: 390, height: 844 });
    for (const path of [
      '/recipes',
      '/recipes/crateline-container',
      '/recipes/parlanook-chat/apply?site=skerrywick',
      '/recipes/updates',
      '/sites/skerrywick/checklist',
      '/sites/skerrywick/snippets/harbour-chat',
    ]) {
      await page.goto(path);
      await page.getByRole('heading', { level: 1 }).waitFor();
      await page.waitForTimeout(300);
      const width = await page.evaluate(() => document.documentElement.scrollWidth);
      expect(width, path).to.be.at.most(390);
    }
  });

  it('say what to do at an address that leads to none', async () => {
    await page.goto('/recipes/no-such-thing');
    await page.getByText('Recipe not found').waitFor();
    expect(problems.splice(0).join(), 'the browser tells, too').to.include('404');
    await page.getByRole('link', { name: 'Go to the recipes' }).click();
    await page.getByRole('heading', { level: 1, name: 'Recipes' }).waitFor();
  });
});
