import type { IdentityAnswer, MemberResource } from '@pragmatica/contract';
import { queryOptions } from '@tanstack/react-query';
import { api } from './client';

export const signInWaysQuery = queryOptions({
  queryKey: ['sign-in-ways'],
  queryFn: async () => (await api.call('showSignInWays', {})).data,
  staleTime: 60_000,
});

export const identitiesQuery = queryOptions({
  queryKey: ['account', 'identities'],
  queryFn: async () => (await api.call('listIdentities', {})).data.items,
});

/** What somebody went to the identity provider for. */
export type Errand =
  | { readonly to: 'sign-in'; readonly back: string }
  | { readonly to: 'connect' }
  | { readonly to: 'confirm' }
  | { readonly to: 'join'; readonly secret: string; readonly login: string; readonly name: string };

interface Kept {
  readonly errand: Errand;
  readonly state: string;
  readonly at: number;
}

/** An answer takes at most so long. */
const ERRAND_MS = 10 * 60_000;
const PREFIX = 'pragmatica.errand.';

/**
 * Sends the browser to the identity provider; it comes back to the answer’s view, which does what it went for.
 *
 * @param options - isFresh: whoever is signed in there is asked who they are all the same
 */
export async function goToProvider(
  errand: Errand,
  { isFresh = errand.to === 'confirm' } = {},
): Promise<void> {
  // Asked for now, as what somebody comes back with works only for a short while.
  if (errand.to === 'connect') await api.call('checkConfirmation', {});
  const { address, state } = (await api.call('beginIdentitySignIn', { body: { isFresh } })).data;
  dropOldErrands();
  const kept: Kept = { errand, state, at: Date.now() };
  // Only the browser that left has it: nobody can send somebody else here with an answer of their own.
  localStorage.setItem(keyOf(new URL(address).search), JSON.stringify(kept));
  window.location.assign(address);
}

/** What this browser went for, with what it came back with; once. @param answer - the query of the address */
export function takeErrand(
  answer: string,
): { readonly errand: Errand; readonly proof: IdentityAnswer } | undefined {
  const key = keyOf(answer);
  const kept = localStorage.getItem(key);
  if (kept === null) return undefined;
  localStorage.removeItem(key);
  const { errand, state } = JSON.parse(kept) as Kept;
  return { errand, proof: { state, answer } };
}

/** Errands are told apart by the `state` that goes there and comes back (RFC 6749, 4.1.1). */
function keyOf(query: string): string {
  return PREFIX + (new URLSearchParams(query).get('state') ?? '');
}

function dropOldErrands(): void {
  for (const key of Object.keys(localStorage).filter((name) => name.startsWith(PREFIX))) {
    const { at } = JSON.parse(localStorage.getItem(key)!) as Kept;
    if (at + ERRAND_MS < Date.now()) localStorage.removeItem(key);
  }
}

/** Does what somebody went for. @returns who is signed in by it; null where that was so before */
export async function finishErrand(errand: Errand, proof: IdentityAnswer): Promise<MemberResource | null> {
  switch (errand.to) {
    case 'sign-in':
      return (await api.call('signInWithIdentity', { body: proof })).data;
    case 'join': {
      const { secret, login, name } = errand;
      return (await api.call('acceptInvitation', { body: { secret, login, name, identity: proof } })).data;
    }
    case 'connect':
      await api.call('addIdentity', { body: proof });
      return null;
    case 'confirm':
      await api.call('confirmPassword', { body: { identity: proof } });
      return null;
  }
}

const channel = 'pragmatica.confirmed';

/** Tells the window that asked for it that somebody has confirmed who they are. */
export function tellConfirmed(): void {
  const teller = new BroadcastChannel(channel);
  teller.postMessage(true);
  teller.close();
}

/** @returns takes it back */
export function onConfirmedElsewhere(listener: () => void): () => void {
  const ear = new BroadcastChannel(channel);
  ear.onmessage = listener;
  return () => ear.close();
}
