import { isIP } from 'node:net';
import { lookup as systemLookup, type LookupAddress, type LookupOptions } from 'node:dns';
import { isLocalAddress, localhostLookup } from '@pragmatica/contract/node';
import { Agent, fetch as send } from 'undici';
import { LRUCache } from 'lru-cache';
import type { Host, Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import type { SecretBox } from './secret-box.js';
import { certificateUntil } from './certificate.js';
import { AccessRefusedError, signInByForm, type FormReader, type FormSecret } from './form-login.js';
import { headersOf, hostSecretOf } from './site-access.js';
import { redirectTarget } from './redirect.js';
import type { SiteRequest, SiteResponse } from './site-request.js';
import { OUTGOING_TEXTS } from '../texts/outgoing.js';
import { say } from '../texts/say.js';

/** An address that only this machine or its own network reaches. The message is for people. */
export class LocalAddressError extends Error {
  constructor(host: string, address: string) {
    super(
      say(OUTGOING_TEXTS.addressIsPrivate, { address: host === address ? address : `${host} (${address})` }),
    );
    this.name = 'LocalAddressError';
  }
}

const HTTPS_PORT = 443;
const FORM_TYPE = 'application/x-www-form-urlencoded';
/** Sites sign people out after a while. */
const SESSION_MS = 10 * 60_000;

type Callback = (error: Error | null, address: string | LookupAddress[], family?: number) => void;

/** Whatever answers for a site's pages. */
export type SiteAsker = Pick<SiteClient, 'get'>;

/**
 * The one way in which the service asks something of a site. For pages it goes to registered hosts and nowhere else,
 * whatever a path or a redirect says, and never into private networks unless the installation allows it: whoever may
 * edit a site must not reach through the service what only the service reaches.
 */
export class SiteClient {
  readonly #agent: Agent;
  readonly mayBeLocal: boolean;
  readonly #box: SecretBox | undefined;
  readonly #readForm: FormReader;
  /** Cookies of hosts that were signed in to, for a while. */
  readonly #sessions = new LRUCache<string, string>({ max: 200, ttl: SESSION_MS });

  /**
   * @param mayBeLocal - the installation's own network may be visited
   * @param box - opens what lets us into hosts that are not public
   * @param readForm - finds the form that such a host asks for a password with
   */
  constructor(mayBeLocal: boolean, box?: SecretBox, readForm: FormReader = () => Promise.resolve(null)) {
    this.mayBeLocal = mayBeLocal;
    this.#box = box;
    this.#readForm = readForm;
    this.#agent = new Agent({ connect: { lookup: mayBeLocal ? localhostLookup : publicLookup } });
  }

  /**
   * @param base - an origin, as it is registered
   * @param path - path and search, below the base whatever it looks like
   * @throws LocalAddressError, and what the network throws
   */
  async get(base: string, path: string, request: SiteRequest = {}): Promise<SiteResponse> {
    const { ownOrigins = [], redirects = 0 } = request;
    const url = siteUrl(base, path);
    const response = await this.#send(url, request);
    const next = redirects === 0 ? undefined : redirectTarget(response, url);
    if (!next || (next.origin !== url.origin && !ownOrigins.includes(next.origin))) return response;
    await response.body?.cancel();
    // The site's own names are asked at the same origin.
    const { form: _, ...rest } = request;
    return this.get(base, next.pathname + next.search, { ...rest, redirects: redirects - 1 });
  }

  /**
   * What a site's pages load from elsewhere, as a browser gets it. Like everything else it is not asked for in private
   * networks unless the installation allows them, whatever the page or a redirect says.
   *
   * @throws LocalAddressError, and what the network throws
   */
  async getElsewhere(
    url: URL,
    request: Pick<SiteRequest, 'headers' | 'signal' | 'redirects'>,
  ): Promise<SiteResponse> {
    const { redirects = 0 } = request;
    const response = await this.#send(url, request);
    const next = redirects === 0 ? undefined : redirectTarget(response, url);
    if (!next || !/^https?:$/.test(next.protocol)) return response;
    await response.body?.cancel();
    return this.getElsewhere(next, { ...request, redirects: redirects - 1 });
  }

  /**
   * Tells a program something. Redirects are not followed: it is told at the address that was given, or not at all.
   *
   * @throws LocalAddressError, and what the network throws
   */
  async post(
    url: URL,
    body: string,
    { headers, signal }: Pick<SiteRequest, 'headers' | 'signal'>,
  ): Promise<SiteResponse> {
    this.#assertAllowed(url);
    return send(url, {
      method: 'POST',
      body,
      ...(headers ? { headers } : {}),
      ...(signal ? { signal } : {}),
      redirect: 'manual',
      dispatcher: this.#agent,
    });
  }

  /** When the certificate of a host ends; null where it has none, nobody answers, or it may not be asked. */
  async certificateUntil(url: URL, signal: AbortSignal): Promise<Date | null> {
    const { protocol, port } = url;
    if (protocol !== 'https:') return null;
    if (this.#isForbidden(url)) return null;
    return certificateUntil(bareHost(url), Number(port || HTTPS_PORT), {
      lookup: this.mayBeLocal ? localhostLookup : publicLookup,
      signal,
    });
  }

  async #send(url: URL, { headers = {}, signal, form }: SiteRequest): Promise<SiteResponse> {
    this.#assertAllowed(url);
    return send(url, {
      ...(form === undefined
        ? { headers }
        : { method: 'POST', body: form, headers: { ...headers, 'content-type': FORM_TYPE } }),
      ...(signal ? { signal } : {}),
      redirect: 'manual',
      dispatcher: this.#agent,
    });
  }

  /**
   * Headers with which a host of a site lets us in, where it is not public. They go to that host only.
   *
   * @throws AccessRefusedError where a form does not let us in
   */
  async access(
    store: Store,
    site: Pick<Site, 'id'>,
    host: Pick<Host, 'host' | 'address'>,
  ): Promise<Readonly<Record<string, string>>> {
    const secret = this.#box && (await hostSecretOf(store, this.#box, site, host.host));
    if (!secret) return {};
    return secret.kind === 'form' ? this.#signIn(secret, host) : headersOf(secret);
  }

  /** The same for what goes on without, where the host lets nobody in. */
  async accessIfLetIn(...of: Parameters<SiteClient['access']>): Promise<Readonly<Record<string, string>>> {
    try {
      return await this.access(...of);
    } catch (error) {
      if (error instanceof AccessRefusedError || error instanceof TypeError) return {};
      throw error;
    }
  }

  async #signIn(
    secret: FormSecret,
    { host, address }: Pick<Host, 'host' | 'address'>,
  ): Promise<Readonly<Record<string, string>>> {
    const base = new URL(address ?? `http://${host}`).origin;
    const key = JSON.stringify([base, secret.page, secret.name, secret.value]);
    let cookie = this.#sessions.get(key);
    if (cookie === undefined) {
      cookie = await signInByForm(
        (path, request) => this.get(base, path, request),
        base,
        secret,
        this.#readForm,
      );
      this.#sessions.set(key, cookie);
    }
    return cookie === '' ? {} : { cookie };
  }

  async close(): Promise<void> {
    await this.#agent.destroy();
  }

  #assertAllowed(url: URL): void {
    if (this.#isForbidden(url)) throw new LocalAddressError(bareHost(url), bareHost(url));
  }

  /** Addresses that are written as such are never looked up. */
  #isForbidden(url: URL): boolean {
    const bare = bareHost(url);
    return !this.mayBeLocal && isIP(bare) !== 0 && isLocalAddress(bare);
  }
}

/** An IPv6 address stands in brackets in a URL. */
function bareHost({ hostname }: URL): string {
  return hostname.replace(/^\[|\]$/g, '');
}

/** The address below a base: `//elsewhere/` and `/\elsewhere/` are paths of the site, too. */
export function siteUrl(base: string, path: string): URL {
  const { origin } = new URL(base);
  return new URL(`${origin}${path.startsWith('/') ? '' : '/'}${path}`);
}

/** The system's lookup, without private addresses. What is connected to is what was checked. */
export function publicLookup(hostname: string, options: LookupOptions, callback: Callback): void {
  systemLookup(hostname, { ...options, all: true }, (error, found) => {
    const addresses = found as unknown as LookupAddress[] | undefined;
    if (error || !addresses?.length) {
      callback(error ?? new Error(say(OUTGOING_TEXTS.hostnameHasNo, { hostname })), []);
      return;
    }
    const local = addresses.find(({ address }) => isLocalAddress(address));
    if (local) callback(new LocalAddressError(hostname, local.address), []);
    else if (options.all) callback(null, addresses);
    else callback(null, addresses[0]!.address, addresses[0]!.family);
  });
}
