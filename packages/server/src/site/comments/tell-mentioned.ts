import type { ToldComment } from '@pragmatica/contract';
import { commentNotice, readComment } from '@pragmatica/core';
import { deferMessages } from '../../language/speech.js';
import { commentById, type Comment } from '../../storage/comments.js';
import { mailAddressOf } from '../../storage/mail-address.js';
import { membersOfSite } from '../../storage/memberships.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { tell, type Telling } from '../watch/notices.js';
import type { Home } from '../watch/tell-act.js';

/** So many of those whom one comment mentions get a mail. */
const MOST_TOLD = 20;

/** What it takes to tell people of a comment. */
export interface CommentPost {
  readonly home: Home;
  /** Whether the installation has a mail server. */
  readonly canMail: boolean;
}

type Told = Pick<ToldComment, 'told' | 'notTold' | 'unknown'>;

export const nobody: Told = { told: [], notTold: [], unknown: [] };

/**
 * Puts mails in line for whom a comment mentions, and a message for programs. Nobody is told of what they write themselves.
 *
 * @param before - what it said before it was changed: whom that mentioned has heard of it
 */
export async function tellMentioned(
  store: Store,
  site: Site,
  { id, by, byName, snippet, finding, text }: Comment,
  { post: { home, canMail }, before = '' }: { readonly post: CommentPost; readonly before?: string },
): Promise<Told> {
  const members = await membersOfSite(store, site.id);
  const logins = members.map(({ login }) => login);
  const { named, unknown } = readComment(text, logins);
  const heard = new Set([by, ...readComment(before, logins).named]);
  const addresses = new Map(members.map((member) => [member.login, mailAddressOf(member)]));
  const wanted = named.filter((login) => !heard.has(login));
  const told = wanted.filter((login) => canMail && addresses.get(login) !== null).slice(0, MOST_TOLD);
  // Each hears of it in their language.
  const about = (await deferMessages(() => commentById(store, site, id)))!.about;
  const address = `${home}/sites/${site.key}/comments#comment-${id}`;
  const data = { comment: id, by, about, snippet, finding, text, mentioned: named, address };
  const type = before === '' ? 'comment.added' : 'comment.changed';
  const compose = (): Telling => ({
    ...commentNotice({ site: site.name, by: byName, about, text, address }),
    ...{ type, data },
  });
  await tell(store, site, compose, { mailTo: told.map((login) => addresses.get(login)!) });
  return { told, notTold: wanted.filter((login) => !told.includes(login)), unknown: [...unknown] };
}
