import {
  ANCHOR_SIDES,
  NAMED_PLACEMENTS,
  anchorText,
  isAnchor,
  readAnchor,
  type Placement,
} from '../insert/index.js';
import type { Delivery } from './delivery.js';
import { ASKED_EACH_TIME, LIKE_THE_PAGE, WITH_PAGE } from './with-page.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { fully, partly } from './ability.js';

const t = DELIVER_TEXTS.ways.fragments;

/** The site's own web server or templates put in what another server sends, placement by placement. */
export const fragments: Delivery = {
  ...WITH_PAGE,
  key: 'fragments',
  get name() {
    return t.name;
  },
  get needs() {
    return t.needs;
  },
  decides: { ...ASKED_EACH_TIME, environment: 'once' },
  get onceWords() {
    return t.environment;
  },
  abilities: {
    ...LIKE_THE_PAGE,
    head: fully(() => t.where),
    'body-start': fully(() => t.where),
    'body-end': fully(() => t.where),
    anchor: partly(() => t.anchor),
    reach: fully(() => t.reach),
    freshness: fully(() => t.freshness),
    cost: fully(() => t.cost),
  },
};

/** A placement as it is written in the address of a fragment: `head-end`, `inside:booking`. */
export function fragmentName(placement: Placement): string {
  return isAnchor(placement) ? `${placement.side}:${encodeURIComponent(anchorText(placement))}` : placement;
}

/** @returns undefined for what is no placement */
export function fragmentPlacement(name: string): Placement | undefined {
  const named = NAMED_PLACEMENTS.find((one) => one === name);
  if (named) return named;
  const colon = name.indexOf(':');
  const side = ANCHOR_SIDES.find((one) => one === name.slice(0, colon));
  if (side === undefined) return undefined;
  try {
    return readAnchor(decodeURIComponent(name.slice(colon + 1)), side);
  } catch {
    return undefined;
  }
}

/** Ways to write that something is to be included. */
export interface FragmentIncludes {
  readonly placement: string;
  /** Server-side includes, for a web server that passes `/pragmatica/` on. */
  readonly ssi: string;
  /** Edge Side Includes 1.0. */
  readonly esi: string;
}

/**
 * What to write into templates, by placement.
 *
 * @param base - where fragments are, without a slash at its end
 * @param name - of the site's line, see `lineName`
 */
export function fragmentIncludes(base: string, name: string): FragmentIncludes[] {
  return NAMED_PLACEMENTS.map((placement) => ({
    placement,
    ssi: `<!--# include virtual="/pragmatica/${placement}?host=$host&path=$request_uri" -->`,
    esi: `<esi:include src="${base}/${name}/${placement}?host=$(HTTP_HOST)&path=$(REQUEST_PATH)" onerror="continue"/>`,
  }));
}

/** What nginx needs to know for the server-side includes above. @param base - see `fragmentIncludes` */
export function fragmentServer(base: string, name: string): string {
  return [
    'location / {',
    '  ssi on;',
    '}',
    'location /pragmatica/ {',
    '  internal;',
    '  ssi off;',
    `  proxy_pass ${base}/${name}/;`,
    '  # What is included is put into the page as it is, and always whole.',
    '  proxy_set_header Accept-Encoding "";',
    '  proxy_set_header If-None-Match "";',
    '  proxy_set_header If-Modified-Since "";',
    '  proxy_set_header Range "";',
    '  proxy_pass_request_body off;',
    '  proxy_set_header Content-Length "";',
    '  proxy_connect_timeout 1s;',
    '  proxy_read_timeout 2s;',
    '  proxy_intercept_errors on;',
    '  error_page 400 404 500 502 503 504 = @pragmatica_away;',
    '}',
    '# Pages go out without it while it is away.',
    'location @pragmatica_away {',
    '  return 204;',
    '}',
  ].join('\n');
}
