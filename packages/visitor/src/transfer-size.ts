import { promisify } from 'node:util';
import { brotliCompress, constants, deflate, gzip } from 'node:zlib';

/** How servers compress what they make anew for each request. */
const BROTLI_QUALITY = 5;

type Compress = (body: Buffer) => Promise<Buffer>;

const withBrotli: Compress = (body) =>
  new Promise((resolve, reject) => {
    brotliCompress(body, { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI_QUALITY } }, (error, made) =>
      error ? reject(error) : resolve(made),
    );
  });

const COMPRESSORS: ReadonlyMap<string, Compress> = new Map([
  ['gzip', promisify<Buffer, Buffer>(gzip)],
  ['x-gzip', promisify<Buffer, Buffer>(gzip)],
  ['deflate', promisify<Buffer, Buffer>(deflate)],
  ['br', withBrotli],
]);

/**
 * Bytes that an answer would take over the line with another body: compressed as the one that came was, its headers as HTTP/1.1
 * writes them.
 *
 * @param headers - of the answer that came
 */
export async function transferSize(
  body: Buffer,
  headers: readonly { readonly name: string; readonly value: string }[],
): Promise<number> {
  const head = headers.reduce(
    (sum, { name, value }) => sum + name.length + value.length + ': \r\n'.length,
    0,
  );
  const encoding = headers.find(({ name }) => name.toLowerCase() === 'content-encoding')?.value;
  const compress = COMPRESSORS.get(encoding?.trim().toLowerCase() ?? '');
  return head + (compress ? await compress(body) : body).length;
}
