import { setTimeout as pause } from 'node:timers/promises';
import { ApiError } from '@pragmatica/contract';
import { expect } from 'chai';
import pg from 'pg';
import { eventually, send } from '../support/http.js';
import { Installation, type Part } from '../support/installation.js';
import { ownSite, type OwnSite } from '../support/surveys.js';

const HOST = 'mill.localhost';
const params = { site: 'mill' };

/** Both parts of a snippet carry its number: a visitor must never see two of them. */
const partsOf = (n: number) => [
  { placement: 'head-end' as const, code: `<meta name="drill" content="head ${n}">` },
  { placement: 'body-end' as const, code: `<meta name="drill" content="body ${n}">` },
];

/** What a writer asked for, and what it was told was done. */
interface Written {
  asked: number;
  readonly done: number[];
}

const written = (): Written => ({ asked: 0, done: [] });

describe('drills: editing and publishing while something dies', function () {
  this.timeout(180_000);
  let installation: Installation;
  let origin: OwnSite;
  /** Nobody answers visitors meanwhile; what they get before and after must be right all the same. */
  let isGatewayDead = false;

  before(async () => {
    origin = await ownSite({ '/': '<!DOCTYPE html><title>Tide Mill</title><body><p>Flour</p></body>' });
    installation = await Installation.start(['service', 'gateway']);
    const address = `http://localhost:${origin.port}`;
    const hosts = [{ host: HOST, environment: 'live' as const, origin: address, address }];
    await installation.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill', hosts } });
    await installation.client.call('createSnippet', {
      params,
      body: { key: 'pair', name: 'Pair', parts: partsOf(0) },
    });
    await installation.client.call('publish', { params, ifMatch: '*', body: { message: 'release 1' } });
    await eventually(async () => expect((await page()).headers['pragmatica-release']).to.equal('1'));
  });
  after(async () => {
    await installation.close();
    origin.close();
  });

  const page = () => send({ port: installation.gatewayPort, host: HOST, headers: { connection: 'close' } });
  const numbersIn = (text: string): number[] =>
    [...text.matchAll(/content="(?:head|body) (\d+)"/g)].map(([, n]) => Number(n));

  /** Does one after the other until told to stop; what fails is tried no second time. */
  async function write(
    written: Written,
    act: (n: number) => Promise<unknown>,
    isOver: () => boolean,
  ): Promise<void> {
    while (!isOver()) {
      const n = ++written.asked;
      try {
        await act(n);
        written.done.push(n);
        await pause(20);
      } catch (error) {
        // Refused in words or not answered at all: either may be while a part is dead.
        // Nobody has edited anything since the last release.
        const isIdle = error instanceof ApiError && error.problem.message?.id === 'served-already';
        if (error instanceof ApiError && !isIdle) expect(error.status, error.message).to.equal(503);
        await pause(200);
      }
    }
  }

  /** Parts die one after the other, each in the middle of everything, and come back. */
  async function dying(parts: readonly Part[], all: readonly Written[]): Promise<void> {
    const goesOn = async (): Promise<void> => {
      const before = all.map(({ done }) => done.length);
      const isFurther = () => all.every(({ done }, index) => done.length > before[index]! + 4);
      await eventually(() => expect(isFurther()).to.equal(true), 40_000);
    };
    await goesOn();
    for (const part of parts) {
      await pause(Math.random() * 300);
      if (part === 'gateway') isGatewayDead = true;
      await installation.kill(part);
      await pause(300);
      await installation.start(part);
      isGatewayDead = false;
      await goesOn();
    }
  }

  it('loses nothing that was acknowledged, shows no half of anything, and goes on', async () => {
    const { client } = installation;
    let isOver = false;
    const over = (): boolean => isOver;
    const released: number[] = [];
    const seen: number[] = [];
    const faults: string[] = [];
    const [edited, made, published] = [written(), written(), written()];
    const editor = write(
      edited,
      (n) =>
        client.call('editSnippet', {
          params: { ...params, snippet: 'pair' },
          ifMatch: '*',
          body: { parts: partsOf(n) },
        }),
      over,
    );
    const maker = write(
      made,
      (n) =>
        client.call('createSnippet', {
          params,
          body: { key: `made-${n}`, name: `Made ${n}`, state: 'off', parts: partsOf(n) },
        }),
      over,
    );
    const publisher = write(
      published,
      async (n) => {
        const { data } = await client.call('publish', {
          params,
          ifMatch: '*',
          body: { message: `try ${n}` },
        });
        released.push(data.number);
      },
      over,
    );
    const visitor = (async () => {
      while (!over()) {
        const wasDead = isGatewayDead;
        const answer = await page().catch((error: unknown) => error as Error);
        if (answer instanceof Error) {
          if (!wasDead && !isGatewayDead) faults.push(String(answer));
        } else {
          const [first, second, ...more] = numbersIn(answer.text);
          const isWhole =
            answer.status === 200 && first !== undefined && first === second && more.length === 0;
          if (isWhole) seen.push(first);
          else faults.push(`${answer.status} ${answer.text}`);
        }
        await pause(20);
      }
    })();
    const writers = Promise.all([editor, maker, publisher, visitor]);
    const drill = dying(
      ['service', 'database', 'gateway', 'service', 'database', 'gateway'],
      [edited, made, published],
    );
    // A writer that fails says more than what waits for it.
    await Promise.race([drill, writers]).finally(() => (isOver = true));
    await writers;

    expect(faults).to.deep.equal([]);
    expect(seen, 'never an older release than before').to.deep.equal(seen.toSorted((a, b) => a - b));
    expect(new Set(seen).size).to.be.above(5);

    const { data: pair } = await client.call('showSnippet', { params: { ...params, snippet: 'pair' } });
    const numbers = numbersIn(pair.parts.map(({ code }) => code).join());
    expect(numbers).to.have.length(2);
    expect(numbers[0]).to.equal(numbers[1]).and.to.be.within(edited.done.at(-1)!, edited.asked);

    const { data: draft } = await client.call('showDraft', { params });
    // What was not acknowledged may be there or not.
    expect(draft.snapshot.snippets.map(({ key }) => key)).to.include.members(
      made.done.map((n) => `made-${n}`),
    );

    const found = await query('select number, message from release order by number');
    expect(found.map(({ number }) => number)).to.deep.equal(found.map((_, index) => index + 1));
    expect(found.map(({ number }) => number)).to.include.members(released);
    const live = numbersIn((await page()).text);
    await eventually(async () =>
      expect((await page()).headers['pragmatica-release']).to.equal(String(found.length)),
    );
    expect(live).to.have.length(2);

    // Each change has its entry and each entry its link, whatever died between them.
    const unsaid = await query(
      `select "key" from snippet s where not exists
         (select from trail_change c where c.kind = 'snippet' and c."key" = s."key")`,
    );
    expect(unsaid).to.deep.equal([]);
    for await (const event of client.stream('verifyTrail', { query: {} }))
      if (event.type === 'done') expect(event).to.include({ isWhole: true, faults: 0 });
  });

  async function query(text: string): Promise<Record<string, unknown>[]> {
    const database = new pg.Client({ connectionString: installation.databaseUrl });
    await database.connect();
    try {
      return (await database.query<Record<string, unknown>>(text)).rows;
    } finally {
      await database.end();
    }
  }
});
