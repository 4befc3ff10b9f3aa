import type { IdentityAnswer } from '@pragmatica/contract';
import * as oidc from 'openid-client';
import { ServiceError } from '../errors.js';
import { AwayError, boundedFetch } from '../outgoing/bounded-fetch.js';
import { reasonOf } from '../outgoing/reason.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import type { Settings } from '../settings.js';
import { Challenges, type Challenge } from './challenges.js';

/** Somebody as the identity provider knows them (OpenID Connect Core 1.0, 2: `iss` and `sub` together are never given to another). */
export interface ProvenIdentity {
  readonly issuer: string;
  readonly subject: string;
  /** A name to recognise it by; nothing is decided by it. */
  readonly name: string;
  /** They have just signed in there anew: not only a session of theirs was still open. */
  readonly isFresh: boolean;
}

/** What is set of the identity provider. */
export interface IdentityProviderSettings {
  readonly issuer: string;
  readonly client: string;
  /** Undefined for a public client. */
  readonly secret: string | undefined;
  /** As people know it. */
  readonly name: string;
}

/** The identity provider that is set; undefined where none is. */
export function createIdentityProvider(
  {
    PRAGMATICA_OIDC_ISSUER: issuer,
    PRAGMATICA_OIDC_CLIENT: client = '',
    PRAGMATICA_OIDC_SECRET: secret,
    PRAGMATICA_OIDC_NAME: name,
  }: Settings,
  box: SecretBox,
): IdentityProvider | undefined {
  if (issuer === undefined) return undefined;
  return new IdentityProvider({ issuer, client, secret, name: name ?? new URL(issuer).hostname }, box);
}

interface Flow extends Challenge {
  readonly verifier: string;
  readonly nonce: string;
  readonly redirect: string;
  readonly isFresh: boolean;
}

/** Where browsers come back to, below the service's address. */
const ANSWER_PATH = '/sign-in/answer';

const FLOW_MS = 10 * 60_000;
/** How long what it says of itself is believed. */
const METADATA_MS = 60 * 60_000;
const TIMEOUT_S = 8;
/** How old a fresh sign-in may be when it comes back, with clocks that differ. */
const FRESH_S = 300;
const CLOCK_TOLERANCE_S = 30;
const MAX_NAME = 200;

/**
 * Signing in at an identity provider: the authorization code flow of OpenID Connect Core 1.0 with PKCE (RFC 7636), state and nonce.
 * What must be kept until the browser is back is sealed and goes with the browser.
 */
export class IdentityProvider {
  readonly name: string;
  readonly issuer: string;
  readonly #settings: IdentityProviderSettings;
  readonly #flows: Challenges<Flow>;
  #known: { readonly configuration: Promise<oidc.Configuration>; readonly until: number } | undefined;

  constructor(settings: IdentityProviderSettings, box: SecretBox) {
    this.name = settings.name;
    this.issuer = settings.issuer;
    this.#settings = settings;
    this.#flows = new Challenges(box, 'identity provider flow', FLOW_MS);
  }

  /**
   * Where to send the browser.
   *
   * @param origin - the service's own, to which it comes back
   * @param isFresh - whoever is signed in there must do so anew
   * @returns the address there, and what to hand back with the answer
   * @throws ServiceError where the provider does not answer
   */
  async begin(
    origin: string,
    { isFresh }: { readonly isFresh: boolean },
  ): Promise<{ address: string; state: string }> {
    const configuration = await this.#configuration();
    const flow: Flow = {
      challenge: oidc.randomState(),
      verifier: oidc.randomPKCECodeVerifier(),
      nonce: oidc.randomNonce(),
      redirect: `${origin}${ANSWER_PATH}`,
      isFresh,
    };
    const address = oidc.buildAuthorizationUrl(configuration, {
      redirect_uri: flow.redirect,
      scope: 'openid profile email',
      state: flow.challenge,
      nonce: flow.nonce,
      code_challenge: await oidc.calculatePKCECodeChallenge(flow.verifier),
      code_challenge_method: 'S256',
      ...(isFresh ? { max_age: '0' } : {}),
    });
    return { address: address.href, state: this.#flows.give(flow) };
  }

  /** Who has come back. @throws ServiceError where nobody has signed in there, or that is not what was asked for */
  async finish({ state, answer }: IdentityAnswer): Promise<ProvenIdentity> {
    const flow = this.#flows.take(state);
    if (!flow) throw new ServiceError('identity-late', { provider: this.name });
    const configuration = await this.#configuration();
    const address = new URL(flow.redirect);
    address.search = answer;
    try {
      const tokens = await oidc.authorizationCodeGrant(configuration, address, {
        pkceCodeVerifier: flow.verifier,
        expectedState: flow.challenge,
        expectedNonce: flow.nonce,
        idTokenExpected: true,
        ...(flow.isFresh ? { maxAge: FRESH_S } : {}),
      });
      const claims = tokens.claims()!;
      const { iss: issuer, sub: subject } = claims;
      return { issuer, subject, name: nameOf(claims), isFresh: flow.isFresh };
    } catch (error) {
      throw this.#problem(error);
    }
  }

  /** Asks it what it says of itself. @returns what is wrong with that, in the words of whatever noticed; null where all is well */
  async examine(): Promise<string | null> {
    try {
      await this.#discover();
      return null;
    } catch (error) {
      return reasonOf(error);
    }
  }

  /** @throws ServiceError */
  async #configuration(): Promise<oidc.Configuration> {
    const now = performance.now();
    if (!this.#known || this.#known.until < now)
      this.#known = { configuration: this.#discover(), until: now + METADATA_MS };
    try {
      return await this.#known.configuration;
    } catch (error) {
      this.#known = undefined;
      throw new ServiceError('identity-provider-away', { provider: this.name }, {}, error);
    }
  }

  /** OpenID Connect Discovery 1.0, 4. */
  async #discover(): Promise<oidc.Configuration> {
    const { issuer, client, secret } = this.#settings;
    const server = new URL(issuer);
    return oidc.discovery(
      server,
      client,
      { [oidc.clockTolerance]: CLOCK_TOLERANCE_S },
      secret === undefined ? oidc.None() : proofOf(secret),
      {
        timeout: TIMEOUT_S,
        [oidc.customFetch]: boundedFetch,
        execute: [
          // The signature is checked also where the line to the provider would prove enough.
          oidc.enableNonRepudiationChecks,
          ...(server.protocol === 'http:' ? [oidc.allowInsecureRequests] : []),
        ],
      },
    );
  }

  #problem(error: unknown): ServiceError {
    const provider = this.name;
    if (isAway(error)) return new ServiceError('identity-provider-away', { provider }, {}, error);
    if (error instanceof oidc.AuthorizationResponseError)
      return new ServiceError('identity-declined', { provider }, {}, error);
    if (isClientRefused(error)) return new ServiceError('identity-client-refused', { provider }, {}, error);
    return new ServiceError('identity-refused', { provider }, {}, error);
  }
}

/** Whether what is wrong is how this service is registered there (RFC 6749, 5.2: with a challenge where it comes with 401). */
function isClientRefused(error: unknown): boolean {
  if (error instanceof oidc.WWWAuthenticateChallengeError) return true;
  return (
    error instanceof oidc.ResponseBodyError && ['invalid_client', 'unauthorized_client'].includes(error.error)
  );
}

/** Proves who this service is in the way that the provider takes; without a word from it, in the usual one (RFC 6749, 2.3.1). */
function proofOf(secret: string): oidc.ClientAuth {
  const [basic, post] = [oidc.ClientSecretBasic(secret), oidc.ClientSecretPost(secret)];
  return (server, ...rest) => {
    const methods = server.token_endpoint_auth_methods_supported ?? ['client_secret_basic'];
    (methods.includes('client_secret_basic') ? basic : post)(server, ...rest);
  };
}

function isAway(error: unknown): boolean {
  for (let cause = error; cause instanceof Error; cause = cause.cause)
    if (cause instanceof AwayError) return true;
  return false;
}

/** OpenID Connect Core 1.0, 5.1. */
function nameOf({ email, preferred_username: userName, name, sub }: oidc.IDToken): string {
  const found = [email, userName, name].find(
    (claim): claim is string => typeof claim === 'string' && claim.trim() !== '',
  );
  return (found ?? sub).slice(0, MAX_NAME);
}
