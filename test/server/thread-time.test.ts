import { expect } from 'chai';
import { setTimeout as sleep } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import { ownThread, threadTimeMs } from '../../packages/server/dist/reading/thread-time.js';

describe('a thread’s own time', () => {
  it('grows with what it does, not while it waits', async function () {
    const own = ownThread();
    if (own === undefined || threadTimeMs(own) === undefined) return this.skip();
    const before = threadTimeMs(own)!;
    await sleep(300);
    const waited = threadTimeMs(own)!;
    while (threadTimeMs(own)! - waited < 100);
    expect(waited - before).to.be.below(250);
    expect(threadTimeMs(own)! - waited).to.be.at.least(100);
  });

  it('is told of another thread of the process, and of none that there is not', async function () {
    const own = ownThread();
    if (own === undefined || threadTimeMs(own) === undefined) return this.skip();
    const busy = new Worker(
      `const { parentPort } = require('node:worker_threads');
       parentPort.postMessage(Number(require('node:fs').readlinkSync('/proc/thread-self').split('/').at(-1)));
       for (;;);`,
      { eval: true },
    );
    try {
      const thread = await new Promise<number>((resolve) => busy.once('message', resolve));
      expect(thread).not.to.equal(own);
      const begin = Date.now();
      while ((threadTimeMs(thread) ?? 0) < 200 && Date.now() - begin < 20_000) await sleep(20);
      expect(threadTimeMs(thread)).to.be.at.least(200);
    } finally {
      await busy.terminate();
    }
    expect(threadTimeMs(2 ** 30)).to.equal(undefined);
  });
});
