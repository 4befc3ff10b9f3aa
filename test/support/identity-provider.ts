import { generateKeyPairSync } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import Provider from 'oidc-provider';

const CLIENT = { id: 'pragmatica', secret: 'a secret that both know' } as const;

/** An identity provider on loopback, at which anybody can sign in who names themselves. */
export interface RunningIdentityProvider {
  readonly issuer: string;
  /** The settings of a service that is registered there. */
  readonly settings: Record<string, string>;
  /** Addresses of services to which browsers may be sent back. */
  readonly homes: string[];
  /** Says something else of everybody from now on. */
  say(claims: Readonly<Record<string, string>>): void;
  close(): Promise<void>;
}

export async function startIdentityProvider(): Promise<RunningIdentityProvider> {
  const homes: string[] = [];
  let said: Readonly<Record<string, string>> = {};
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const issuer = `http://localhost:${(server.address() as AddressInfo).port}`;
  const provider = quietly(
    () =>
      new Provider(issuer, {
        clients: [
          { client_id: CLIENT.id, client_secret: CLIENT.secret, redirect_uris: ['http://localhost/any'] },
        ],
        cookies: { keys: ['only for tests'] },
        jwks: { keys: [{ ...signingKey(), use: 'sig', alg: 'RS256' }] },
        claims: { openid: ['sub'], email: ['email'], profile: ['preferred_username'] },
        conformIdTokenClaims: false,
        features: { devInteractions: { enabled: false } },
        ttl: { AccessToken: 600, IdToken: 600, Interaction: 600, Grant: 600, Session: 600 },
        findAccount: (_context, id) => ({
          accountId: id,
          claims: () => ({ sub: id, email: `${id}@skerrywick.example`, ...said }),
        }),
        // It is the house's own service: nobody is asked whether it may know who they are.
        loadExistingGrant: async ({ oidc: { provider: own, client, session } }) => {
          if (session?.accountId === undefined) return undefined;
          const grant = new own.Grant({ clientId: client!.clientId, accountId: session.accountId });
          grant.addOIDCScope('openid email profile');
          await grant.save();
          return grant;
        },
      }),
  );
  provider.Client.prototype.redirectUriAllowed = (address: string) => homes.includes(new URL(address).origin);
  const answer = provider.callback();
  server.on('request', (request, response) => {
    if (request.url!.startsWith('/interaction/')) void askWho(provider, request, response);
    else void answer(request, response);
  });
  return {
    issuer,
    homes,
    settings: {
      PRAGMATICA_OIDC_ISSUER: issuer,
      PRAGMATICA_OIDC_CLIENT: CLIENT.id,
      PRAGMATICA_OIDC_SECRET: CLIENT.secret,
      PRAGMATICA_OIDC_NAME: 'Harbour ID',
    },
    say: (claims) => (said = claims),
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

/** A page with one field, and what comes of it. */
async function askWho(provider: Provider, request: IncomingMessage, response: ServerResponse): Promise<void> {
  if (request.method === 'POST') {
    const accountId = new URLSearchParams(await text(request)).get('login')!;
    await provider.interactionFinished(request, response, { login: { accountId } });
    return;
  }
  response.setHeader('content-type', 'text/html; charset=utf-8');
  response.end(`<!doctype html><html lang="en"><title>Harbour ID</title><h1>Harbour ID</h1>
<form method="post" action="${request.url!}"><label>Who are you? <input name="login"></label><button>Sign in</button></form>`);
}

function signingKey(): JsonWebKey & { kty: string } {
  const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  return privateKey.export({ format: 'jwk' }) as JsonWebKey & { kty: string };
}

/** Without its advice for those who run it at work. */
function quietly<T>(make: () => T): T {
  const { info, warn } = console;
  Object.assign(console, { info: () => undefined, warn: () => undefined });
  try {
    return make();
  } finally {
    Object.assign(console, { info, warn });
  }
}

/** A person's browser at the identity provider: it keeps cookies there, and stops where it is sent back to. */
export class PersonElsewhere {
  readonly #cookies = new Map<string, string>();
  readonly #login: string;

  constructor(login: string) {
    this.#login = login;
  }

  /** Goes where it is sent, and signs in where it is asked to. @returns the query of the address that it is sent back to */
  async visit(address: string): Promise<string> {
    const { origin } = new URL(address);
    let next = new URL(address);
    let isAsked = false;
    while (next.origin === origin) {
      const response: Response = await fetch(next, {
        redirect: 'manual',
        headers: { cookie: [...this.#cookies].map(([name, value]) => `${name}=${value}`).join('; ') },
        ...(isAsked ? { method: 'POST', body: new URLSearchParams({ login: this.#login }) } : {}),
      });
      this.#keep(response.headers.getSetCookie());
      const location: string | null = response.headers.get('location');
      isAsked = location === null;
      if (location !== null) next = new URL(location, next);
      else if (response.status !== 200) throw new Error(`${response.status} ${await response.text()}`);
    }
    return next.search;
  }

  #keep(cookies: readonly string[]): void {
    for (const cookie of cookies) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(cookie)!;
      if (value === '') this.#cookies.delete(name!);
      else this.#cookies.set(name!, value!);
    }
  }
}
