import type { EndpointCall, Endpoints } from '@pragmatica/contract';
import type { Role } from '@pragmatica/core';
import type { Stage } from './stage.js';
import { api } from './http.js';

export const PASSWORD = 'quiet harbour at six';

type Given = { readonly role?: Role; readonly sites?: Readonly<Record<string, Role>> };

/** The secret behind the # of a link. */
export function secretOf({ path }: { readonly path: string }): string {
  return path.slice(path.indexOf('#') + 1);
}

/** Invites somebody as the administrator, and accepts. @returns a token that may all that they may */
export async function makeMember(stage: Stage, login: string, { role, sites = {} }: Given): Promise<string> {
  const body: EndpointCall<Endpoints['createInvitation']>['body'] = {
    name: login,
    role: role ?? null,
    sites: Object.entries(sites).map(([site, there]) => ({ site, role: there })),
  };
  const { data: invitation } = await stage.client.call('createInvitation', { body });
  const person = { secret: secretOf(invitation), login, name: `Somebody ${login}`, password: PASSWORD };
  await stage.client.call('acceptInvitation', { body: person });
  const { data } = await stage.client.call('signIn', { body: { login, password: PASSWORD, as: 'token' } });
  return data.token!;
}

/** Makes a token of the administrator that may less. */
export async function makeToken(
  stage: Stage,
  limits: Pick<EndpointCall<Endpoints['createToken']>['body'], 'role' | 'sites'>,
): Promise<string> {
  const { data } = await stage.client.call('createToken', { body: { name: 'pipeline', ...limits } });
  return data.secret;
}

/** A call as somebody, with what went wrong, if anything. */
export async function callAs(
  stage: Stage,
  token: string | undefined,
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>,
) {
  const { status, json } = await api(stage.server, token, method, path, body, headers);
  const { id } = ((json as typeof json | undefined)?.['message'] ?? {}) as { readonly id?: string };
  return { status, json, id };
}
