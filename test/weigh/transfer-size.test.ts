import { gzipSync } from 'node:zlib';
import { expect } from 'chai';
import { transferSize } from '../../packages/visitor/src/transfer-size.js';

const PAGE = Buffer.from(`<!doctype html><p>${'Between three islands, every day. '.repeat(200)}</p>`);
const header = (name: string, value: string) => ({ name, value });

describe('what a page takes over the line', () => {
  it('is its body and its headers, where nothing compresses it', async () => {
    const headers = [header('Content-Type', 'text/html'), header('X-A', '1')];
    expect(await transferSize(PAGE, headers)).to.equal(
      PAGE.length + 'Content-Type: text/html\r\nX-A: 1\r\n'.length,
    );
  });

  it('is compressed as the answer was that came', async () => {
    const line = 'content-encoding: '.length + 2;
    const gzip = await transferSize(PAGE, [header('content-encoding', 'gzip')]);
    expect(gzip).to.equal(gzipSync(PAGE).length + line + 'gzip'.length);
    for (const encoding of ['br', 'deflate', 'x-gzip', ' GZip '])
      expect(await transferSize(PAGE, [header('Content-Encoding', encoding)]), encoding).to.be.below(1_000);
    // A way that nobody here knows counts as none.
    for (const odd of ['odd', 'constructor', '__proto__', 'toString'])
      expect(await transferSize(PAGE, [header('content-encoding', odd)]), odd).to.be.above(PAGE.length);
  });
});
