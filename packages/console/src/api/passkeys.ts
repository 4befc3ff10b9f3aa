import type { MemberResource } from '@pragmatica/contract';
import {
  browserSupportsWebAuthn,
  startAuthentication,
  startRegistration,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/browser';
import { api } from './client';

/** Whether this browser can have passkeys for this address: it needs a host name, and HTTPS anywhere but on localhost. */
export function canUsePasskeys(): boolean {
  return browserSupportsWebAuthn() && !/^[\d.]+$|:/.test(window.location.hostname);
}

/** Makes a passkey and has it kept. */
export async function makePasskey(name: string): Promise<void> {
  const { options, state } = (await api.call('beginPasskey', {})).data;
  const optionsJSON = options as unknown as PublicKeyCredentialCreationOptionsJSON;
  const credential = await startRegistration({ optionsJSON });
  await api.call('addPasskey', { body: { name, state, credential: { ...credential } as never } });
}

/** Signs in whoever the browser has a passkey of. */
export async function signInByPasskey(): Promise<MemberResource> {
  const { options, state } = (await api.call('beginPasskeySignIn', {})).data;
  const optionsJSON = options as unknown as PublicKeyCredentialRequestOptionsJSON;
  const credential = await startAuthentication({ optionsJSON });
  return (await api.call('signInWithPasskey', { body: { state, credential: { ...credential } as never } }))
    .data;
}

/** What went wrong in the browser is that somebody would rather not, or did not answer in time. */
export function isDeclined(error: Error | null): boolean {
  return error?.name === 'NotAllowedError' || error?.name === 'AbortError';
}
