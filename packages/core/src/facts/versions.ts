/** A version as file names and paths carry it: `3.2.1`, `v2`, `4.x`. */
const VERSION =
  /(?<!\w|\d\.)v?(\d+(?:\.(?:\d+|x))+(?:-[\w.]+)?|\d+\.x)(?![\w])|(?<=[/@-])v?(\d+\.\d+(?:\.\d+)*)/gi;
const MINIFIED = /[.-]min(?=\.(?:js|css)$)/;

export interface VersionedFile {
  /** The address without its version. */
  readonly library: string;
  readonly version: string;
}

/** The library and the version that an address's path names; undefined where it names none. */
export function versionedFile(address: string): VersionedFile | undefined {
  const path = address
    .split(/[?#]/, 1)[0]!
    .replace(/^(?:https?:)?\/\/[^/]*/i, '')
    .replace(MINIFIED, '');
  const found = [...path.matchAll(VERSION)];
  if (found.length !== 1 || !/\.(?:m?js|css)$/.test(path)) return undefined;
  const [whole] = found[0]!;
  const file = path.slice(path.lastIndexOf('/') + 1);
  const library = file.includes(whole)
    ? file.replace(whole, '')
    : path.slice(0, path.indexOf(whole)).split('/').findLast(Boolean);
  if (library === undefined) return undefined;
  const name = library
    .replace(/^[-@.]+|(?<![-@.])[-@.]+(?=\.|$)/g, '')
    .replace(/\.(?:m?js|css)$/, '')
    .replace(/(?<![-@.])[-@.]+$/, '');
  return name === '' ? undefined : { library: name.toLowerCase(), version: whole.replace(/^v/i, '') };
}
