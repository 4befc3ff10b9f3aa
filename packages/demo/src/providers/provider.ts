/** A stand-in for an outside service: made up, small, and honest about what it received. */
export interface Provider {
  /** Its host is `<key>.localhost`. */
  readonly key: string;
  readonly name: string;
  readonly does: string;
  /** Files it serves, by path; `origin` is its own address. */
  readonly files: Readonly<Record<string, (origin: string) => string>>;
}

/** What every stand-in's script begins with: a way to tell its maker. */
export function script(body: string): (origin: string) => string {
  return (origin) => `(function () {
  'use strict';
  var tell = function (what) {
    what.page = location.pathname;
    // Two images with one address would be fetched once.
    what.once = Math.random();
    new Image().src = '${origin}/tell?' + new URLSearchParams(what);
  };
${body.replace(/^/gm, '  ')}
})();
`;
}
