import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

/** How pages lie packed beside themselves, for web servers that send them as they are. One more is one more line. */
const CODINGS: Readonly<Record<string, (page: Uint8Array) => Uint8Array>> = {
  '.gz': (page) => gzipSync(page, { level: constants.Z_BEST_COMPRESSION }),
  '.br': (page) =>
    brotliCompressSync(page, {
      params: { [constants.BROTLI_PARAM_SIZE_HINT]: page.length },
    }),
};

/** The page that a file holds packed: `fares.html` for `fares.html.gz`. */
export function packedOf(file: string): string | undefined {
  const coding = Object.keys(CODINGS).find((ending) => file.endsWith(ending));
  const page = coding && file.slice(0, -coding.length);
  return page !== undefined && /\.html?$/i.test(page) ? page : undefined;
}

/** A page packed as the name of a file says. */
export function packAs(file: string, page: Uint8Array): Uint8Array {
  return CODINGS[file.slice(file.lastIndexOf('.'))]!(page);
}
