import { sha256, sha384, sha512 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';

/** A Content Security Policy that a page comes with (CSP Level 3). */
export interface DeclaredPolicy {
  readonly value: string;
  readonly from: 'header' | 'meta';
  readonly isReportOnly: boolean;
}

/** Kinds of what a policy may block (CSP Level 3, section 6), by the directives that decide, the first that is there. */
const DIRECTIVES = {
  script: ['script-src-elem', 'script-src', 'default-src'],
  'inline-script': ['script-src-elem', 'script-src', 'default-src'],
  handler: ['script-src-attr', 'script-src', 'default-src'],
  style: ['style-src-elem', 'style-src', 'default-src'],
  'inline-style': ['style-src-elem', 'style-src', 'default-src'],
  image: ['img-src', 'default-src'],
  frame: ['frame-src', 'child-src', 'default-src'],
  font: ['font-src', 'default-src'],
  connect: ['connect-src', 'default-src'],
  media: ['media-src', 'default-src'],
} as const;
export type PolicyRequest = keyof typeof DIRECTIVES;

/** What a policy says to one thing. */
export type PolicyVerdict =
  | { readonly kind: 'allowed' }
  /** @see `directive` for which says so */
  | { readonly kind: 'blocked'; readonly directive: string }
  /** It would be let in with a nonce or a hash, which nobody has given it. */
  | { readonly kind: 'needs-nonce'; readonly directive: string };

const ALLOWED: PolicyVerdict = { kind: 'allowed' };
/** Source lists longer than these are somebody's mistake; what follows is not read. */
const MAX_LENGTH = 16_384;

/** A serialized policy (CSP Level 3, 2.2.1): directives by name, each once. */
export class ContentPolicy {
  readonly #directives = new Map<string, readonly string[]>();

  constructor(serialized: string) {
    for (const token of serialized.slice(0, MAX_LENGTH).split(';')) {
      const [name, ...sources] = token.trim().split(/[\t\n\f\r ]+/);
      const key = name!.toLowerCase();
      // A directive that comes again is ignored.
      if (key !== '' && !this.#directives.has(key)) this.#directives.set(key, sources);
    }
  }

  /** Its directives by name, in its own order. */
  get directives(): ReadonlyMap<string, readonly string[]> {
    return this.#directives;
  }

  /** The directive that decides on a kind of request; undefined where the policy says nothing of it. */
  governing(request: PolicyRequest): string | undefined {
    return DIRECTIVES[request].find((name) => this.#directives.has(name));
  }

  /**
   * Whether the policy lets something in (CSP Level 3, 6.7).
   *
   * @param what - its address, resolved against the page; of what is inline, its text
   * @param page - address of the page
   */
  verdict(request: PolicyRequest, what: string, page: string): PolicyVerdict {
    const directive = this.governing(request);
    if (directive === undefined) return ALLOWED;
    const sources = this.#directives.get(directive)!;
    const isInline = request === 'inline-script' || request === 'inline-style' || request === 'handler';
    const isIn = isInline
      ? allowsInline(sources, what, request === 'handler')
      : allowsAddress(sources, what, page, request === 'script');
    if (isIn) return ALLOWED;
    const wantsNonce = sources.some((source) => /^'(?:nonce-|strict-dynamic')/i.test(source));
    const isScript = request === 'script' || request === 'inline-script';
    return { kind: isScript && wantsNonce ? 'needs-nonce' : 'blocked', directive };
  }
}

const HASHES = { sha256, sha384, sha512 } as const;

/** CSP Level 3, 6.7.3.2 ("does a source list allow all inline behavior"). */
export function allowsAllInline(sources: readonly string[]): boolean {
  const lower = sources.map((source) => source.toLowerCase());
  const isUnsafeOff = lower.some((source) => /^'(?:nonce-|sha(?:256|384|512)-|strict-dynamic')/.test(source));
  return lower.includes("'unsafe-inline'") && !isUnsafeOff;
}

/** CSP Level 3, 6.7.3.3. */
function allowsInline(sources: readonly string[], text: string, isHandler: boolean): boolean {
  if (allowsAllInline(sources)) return true;
  if (isHandler && !sources.some((source) => source.toLowerCase() === "'unsafe-hashes'")) return false;
  return sources.some((source) => {
    const [, name, value] = /^'(sha256|sha384|sha512)-([A-Za-z0-9+/_-]+={0,2})'$/i.exec(source) ?? [];
    if (name === undefined) return false;
    const digest = HASHES[name.toLowerCase() as keyof typeof HASHES](utf8ToBytes(text));
    return toBase64(digest) === value!.replaceAll('-', '+').replaceAll('_', '/');
  });
}

function toBase64(bytes: Uint8Array): string {
  return btoa(String.fromCharCode(...bytes));
}

/** The source expression that lets a text in where it stands in a page (CSP Level 3, 2.3.1). */
export function hashSource(text: string): string {
  return `'sha256-${toBase64(sha256(utf8ToBytes(text)))}'`;
}

/** The directive under which a kind of request is written, where no other is there yet. */
export function directiveOf(request: PolicyRequest): string {
  return DIRECTIVES[request].find((name) => !/-(?:elem|attr)$/.test(name))!;
}

/** CSP Level 3, 6.7.2.7 ("does url match source list in origin with redirect count"). */
function allowsAddress(
  sources: readonly string[],
  address: string,
  page: string,
  isScript: boolean,
): boolean {
  if (!URL.canParse(address, page)) return false;
  const url = new URL(address, page);
  // Hosts and 'self' do not count beside 'strict-dynamic': only what a trusted script loads, or a nonce.
  if (isScript && sources.some((source) => source.toLowerCase() === "'strict-dynamic'")) return false;
  return sources.some((source) => matchesSource(source, url, new URL(page)));
}

const DEFAULT_PORTS: Readonly<Record<string, string>> = {
  'http:': '80',
  'https:': '443',
  'ws:': '80',
  'wss:': '443',
};
const NETWORK = new Set(['http:', 'https:', 'ws:', 'wss:']);

/** CSP Level 3, 6.7.2.8 ("does url match expression in origin"). */
function matchesSource(source: string, url: URL, page: URL): boolean {
  const expression = source.toLowerCase();
  if (expression === '*') return NETWORK.has(url.protocol) || url.protocol === page.protocol;
  if (/^[a-z][a-z0-9+.-]*:$/.test(expression)) return matchesScheme(expression, url.protocol);
  if (expression === "'self'") return isSelf(url, page);
  const found =
    /^(?:([a-z][a-z0-9+.-]*:)\/\/)?(\*|(?:\*\.)?[a-z0-9-]+(?:\.[a-z0-9-]+)*\.?)(?::(\d+|\*))?(\/[^?#]*)?$/.exec(
      expression,
    );
  if (!found) return false;
  const [, scheme, host, port, path] = found;
  if (!matchesScheme(scheme ?? page.protocol, url.protocol)) return false;
  if (!matchesHost(host!, url.hostname)) return false;
  if (!matchesPort(port, scheme ?? page.protocol, url)) return false;
  return path === undefined || matchesPath(source.slice(source.length - path.length), url.pathname);
}

const SECURE_FORMS: Readonly<Record<string, readonly string[]>> = {
  'http:': ['https:'],
  'ws:': ['wss:', 'http:', 'https:'],
  'wss:': ['https:'],
};

/** A scheme lets in its secure form as well (CSP Level 3, 6.7.2.9). */
function matchesScheme(allowed: string, is: string): boolean {
  return allowed === is || SECURE_FORMS[allowed]?.includes(is) === true;
}

/** The page's own origin, or the same host by a secure scheme (CSP Level 3, 6.7.2.8, step 4). */
function isSelf(url: URL, page: URL): boolean {
  if (url.origin === page.origin) return true;
  const isUpgrade =
    url.protocol === 'https:' ||
    url.protocol === 'wss:' ||
    (page.protocol === 'http:' && url.protocol === 'ws:');
  const arePortsAlike = url.port === page.port;
  return url.hostname === page.hostname && arePortsAlike && isUpgrade;
}

function portOf(url: URL): string {
  return url.port === '' ? (DEFAULT_PORTS[url.protocol] ?? '') : url.port;
}

function matchesHost(pattern: string, host: string): boolean {
  if (pattern === '*') return true;
  return pattern.startsWith('*.') ? host.endsWith(pattern.slice(1)) : host === pattern;
}

function matchesPort(pattern: string | undefined, scheme: string, url: URL): boolean {
  if (pattern === '*') return true;
  if (pattern === undefined) return url.port === '';
  const port = portOf(url);
  // A page that moves to the secure form keeps its host, not its port.
  return pattern === port || (pattern === '80' && port === '443' && matchesScheme(scheme, url.protocol));
}

/** A path with a slash at its end lets in all below it (CSP Level 3, 6.7.2.12). */
function matchesPath(pattern: string, path: string): boolean {
  if (pattern === '' || pattern === '/') return true;
  return pattern.endsWith('/') ? path.startsWith(pattern) : path === pattern;
}
