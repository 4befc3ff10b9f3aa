import type { Member } from './rows.js';

/** As the HTML Standard has it for an input of type email, with a dot in its domain. */
const ADDRESS = /^[a-z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-z0-9-]+(?:\.[a-z0-9-]+)+$/i;

/**
 * Where mails to a member go: what they have said, and where they have said nothing, their login if it is an address.
 *
 * @returns null for nowhere
 */
export function mailAddressOf({ login, mail }: Pick<Member, 'login' | 'mail'>): string | null {
  if (typeof mail === 'string') return mail === '' ? null : mail;
  return ADDRESS.test(login) ? login : null;
}
