import { expect } from 'chai';
import type { BlocksResource } from '@pragmatica/contract';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, ownSite, type OwnSite } from '../support/surveys.js';

describe('blocks to paste, over the API', function () {
  this.timeout(60_000);
  let stage: Stage;
  let site: OwnSite;
  const pages: Record<string, string> = {};

  before(async () => {
    stage = await startStage({ hasDemo: false });
    pages['/sitemap.xml'] =
      '<urlset><url><loc>http://localhost/</loc></url><url><loc>http://localhost/fares</loc></url></urlset>';
    site = await ownSite(pages);
    await addSite(stage, 'boxed', site.port);
  });

  after(async () => {
    site.close();
    await stage.close();
  });

  const params = { site: 'boxed' };
  const blocks = async (of: 'served' | 'draft' = 'served'): Promise<BlocksResource> =>
    (await stage.client.call('showBlocks', { params, query: { of } })).data;
  async function publish(name: string, code: string, placement = 'body-end' as const): Promise<void> {
    await stage.client.call('createSnippet', { params, body: { name, parts: [{ placement, code }] } });
    const { etag } = await stage.client.call('showDraft', { params });
    await stage.client.call('publish', { params, ifMatch: etag, body: { message: name } });
  }
  const check = async () => (await stage.client.call('checkBlocks', { params, query: {} })).data;
  const seen = async (): Promise<string[]> =>
    (await check()).pages.map(({ page, findings }) => `${page} ${findings.map(({ state }) => state).join()}`);

  it('are none without boxes, and say for each part that nothing takes it', async () => {
    await publish('Chat', '<script>chat()</script>');
    const none = await blocks();
    expect(none).to.deep.include({ boxes: [], blocks: [], obsolete: [], release: 1 });
    expect(none.left).to.have.length(1);
  });

  it('are made for the boxes that somebody describes, and are open until they are pasted', async () => {
    const boxes = [{ kind: 'site-foot' as const, name: 'Code before </body>', maxLength: 10_000 }];
    await stage.client.call('setBoxes', { params, body: { boxes } });
    expect((await stage.client.call('listBoxes', { params })).data.items).to.deep.equal(boxes);
    const {
      blocks: [block],
      left,
    } = await blocks();
    expect(left).to.deep.equal([]);
    expect(block).to.include({ kind: 'site-foot', page: null, name: 'Code before </body>', state: 'open' });
    expect(block!.text).to.include('<script>chat()</script>').and.include('release 1 site-foot');
    const ticked = await stage.client.call('tickBlock', {
      params,
      body: { kind: 'site-foot', digest: block!.digest },
    });
    expect(ticked.data.blocks[0]).to.include({ state: 'done' });
    expect(ticked.data.blocks[0]!.pasted).to.include({ release: 1, by: 'admin' });
  });

  it('are looked for on the live pages', async () => {
    pages['/'] = '<p>home</p>';
    pages['/fares'] = `<p>fares</p>${(await blocks()).blocks[0]!.text}`;
    expect(await seen()).to.deep.equal(['/ missing', '/fares right']);
    pages['/'] = pages['/fares'].replace('chat()', '');
    expect(await seen()).to.deep.equal(['/ altered', '/fares right']);
    const { counts, release } = await check();
    expect({ counts, release }).to.deep.equal({ counts: { right: 1, wrong: 1 }, release: 1 });
  });

  it('are out of date when what they hold has changed, and only then', async () => {
    const old = (await blocks()).blocks[0]!;
    await publish('Pop-up', '<script>pop()</script>');
    const now = (await blocks()).blocks[0]!;
    expect([now.state, now.pasted!.release]).to.deep.equal(['outdated', 1]);
    pages['/'] = `${old.text}${now.text}`;
    expect(await seen()).to.deep.equal(['/ twice', '/fares outdated']);
    const late = await stage.client
      .call('tickBlock', { params, body: { kind: 'site-foot', digest: old.digest } })
      .catch((error: unknown) => error);
    expect(late).to.have.nested.property('problem.status', 409);
    await stage.client.call('tickBlock', { params, body: { kind: 'site-foot', digest: now.digest } });
    expect((await blocks()).blocks[0]!.state).to.equal('done');
    expect((await blocks('draft')).blocks[0]!.state, 'the same in the draft').to.equal('done');
  });

  it('are told to be emptied when nothing goes there any more', async () => {
    await stage.client.call('setBoxes', {
      params,
      body: { boxes: [{ kind: 'site-head', name: 'Head code' }] },
    });
    const { obsolete } = await blocks();
    expect(obsolete).to.have.length(1);
    expect(obsolete[0]).to.include({ kind: 'site-foot', page: null });
    await stage.client.call('tickBlock', { params, body: { kind: 'site-foot', digest: null } });
    expect((await blocks()).obsolete).to.deep.equal([]);
  });

  it('refuse boxes that are there twice or have no name', async () => {
    const box = { kind: 'site-head' as const, name: 'Head' };
    for (const [boxes, pointer] of [
      [[box, box], '/boxes/1/kind'],
      [[{ ...box, name: ' ' }], '/boxes/0/name'],
    ] as const) {
      const refused = await stage.client
        .call('setBoxes', { params, body: { boxes: [...boxes] } })
        .catch((error: unknown) => error);
      expect(refused).to.have.nested.property('problem.errors[0].pointer', pointer);
    }
  });
});
