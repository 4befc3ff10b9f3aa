import { expect } from 'chai';
import { createClient, type ApiError } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import pg from 'pg';
import { startStage, type Stage } from '../support/stage.js';

describe('a link to the blocks to paste', function () {
  this.timeout(60_000);
  let stage: Stage;
  /** Somebody without an account. */
  let stranger: ReturnType<typeof createClient>;
  const params = { site: 'skerrywick' };

  before(async () => {
    stage = await startStage();
    stranger = createClient({ server: stage.server, fetch: localhostFetch });
    const boxes = [{ kind: 'site-head' as const, name: 'Head code' }];
    await stage.client.call('setBoxes', { params, body: { boxes } });
  });
  after(() => stage.close());

  const make = async (days = 14): Promise<{ id: number; path: string; secret: string }> => {
    const { data } = await stage.client.call('createHandover', { params, body: { days } });
    return { ...data, secret: data.path.split('#')[1]! };
  };
  const statusOf = async (work: Promise<unknown>): Promise<number> =>
    work.then(
      () => 200,
      (error: unknown) => (error as ApiError).status,
    );

  it('shows what is to be pasted, to whoever has it, and lets them tick it off', async () => {
    const { id, path, secret } = await make();
    expect(path).to.match(/^\/handover#pragmatica_[\w-]{43}$/);
    const { data } = await stranger.call('openHandover', { body: { secret } });
    expect(data).to.deep.include({ site: 'Skerrywick Ferries', environment: 'live' });
    const [block] = data.blocks.blocks;
    expect([block!.name, block!.state]).to.deep.equal(['Head code', 'open']);
    const ticked = await stranger.call('tickHandover', {
      body: { secret, kind: 'site-head', digest: block!.digest },
    });
    expect(ticked.data.blocks.blocks[0]!.state).to.equal('done');
    // Who pasted it is known as far as it can be.
    const own = await stage.client.call('showBlocks', { params, query: {} });
    expect(own.data.blocks[0]!.pasted).to.include({ by: `link ${id} of admin` });
    const { items } = (await stage.client.call('listHandovers', { params })).data;
    expect(items[0]).to.include({ id, by: 'admin' });
    expect(items[0]!.usedAt).not.to.equal(null);
    expect(JSON.stringify(items)).not.to.include(secret);
  });

  it('does nothing else, and nothing without its secret', async () => {
    const { secret } = await make();
    expect(await statusOf(stranger.call('showBlocks', { params, query: {} }))).to.equal(401);
    expect(await statusOf(stranger.call('listHandovers', { params }))).to.equal(401);
    const asToken = createClient({ server: stage.server, token: secret, fetch: localhostFetch });
    expect(await statusOf(asToken.call('showSite', { params }))).to.equal(401);
    expect(await statusOf(stranger.call('openHandover', { body: { secret: `${secret}x` } }))).to.equal(404);
    expect(await statusOf(stranger.call('openHandover', { body: { secret: 'short' } }))).to.equal(422);
  });

  it('refuses a tick for a block that is another one by now', async () => {
    const { secret } = await make();
    const body = { secret, kind: 'site-head' as const, digest: '0123456789ab' };
    expect(await statusOf(stranger.call('tickHandover', { body }))).to.equal(409);
  });

  it('works no longer when it is ended, or over', async () => {
    const { id, secret } = await make();
    await stage.client.call('endHandover', { params: { ...params, handover: id } });
    expect(await statusOf(stranger.call('openHandover', { body: { secret } }))).to.equal(404);
    expect(
      await statusOf(stage.client.call('endHandover', { params: { ...params, handover: id } })),
    ).to.equal(404);
    const late = await make(1);
    const database = new pg.Client(stage.databaseUrl);
    await database.connect();
    await database.query(`update handover set until = now() - interval '1 second' where id = $1`, [late.id]);
    await database.end();
    expect(await statusOf(stranger.call('openHandover', { body: { secret: late.secret } }))).to.equal(404);
    const { items } = (await stage.client.call('listHandovers', { params })).data;
    expect(items.map((one) => one.id)).not.to.include(late.id);
    expect(await statusOf(stage.client.call('createHandover', { params, body: { days: 91 } }))).to.equal(422);
  });
});
