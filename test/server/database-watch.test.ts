import { connect, createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { expect } from 'chai';
import { DatabaseWatch } from '../../packages/server/dist/storage/database-watch.js';
import { eventually } from '../support/http.js';
import { createDatabase } from '../support/stage.js';

describe('the watch over the database', function () {
  this.timeout(30_000);
  let relay: Server;
  let url: string;
  const open = new Set<Socket>();
  let isHeld = false;
  let asked = 0;

  /** Between the watch and the database: what is asked can be held up. */
  before(async () => {
    const database = new URL(await createDatabase(`watch_${process.pid}`));
    const { hostname } = database;
    const port = Number(database.port);
    relay = createServer((socket) => {
      open.add(socket);
      const upstream = connect(port, hostname);
      upstream.pipe(socket);
      socket.on('data', (data) => {
        asked++;
        if (!isHeld) upstream.write(data);
      });
      for (const end of [socket, upstream]) {
        end.on('error', () => undefined);
        end.on('close', () => {
          socket.destroy();
          upstream.destroy();
          open.delete(socket);
        });
      }
    });
    await new Promise<void>((resolve) => relay.listen(0, '127.0.0.1', resolve));
    database.port = String((relay.address() as AddressInfo).port);
    url = database.href;
  });
  after(() => {
    for (const socket of open) socket.destroy();
    relay.close();
  });
  beforeEach(() => {
    isHeld = false;
  });

  it('leaves no connection behind when it is closed while it asks', async () => {
    const watch = new DatabaseWatch(url);
    await watch.start();
    expect(watch.isAnswering).to.equal(true);
    isHeld = true;
    const before = asked;
    await eventually(() => expect(asked).to.be.above(before));
    await watch.close();
    isHeld = false;
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    expect(open.size).to.equal(0);
  });

  it('leaves none behind when it is closed while it connects', async () => {
    const watch = new DatabaseWatch(url);
    isHeld = true;
    const started = watch.start();
    await eventually(() => expect(open.size).to.equal(1));
    await watch.close();
    isHeld = false;
    await started;
    await eventually(() => expect(open.size).to.equal(0));
    expect(watch.isAnswering).to.equal(false);
  });
});
