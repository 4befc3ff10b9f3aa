import type { ApprovalSheet, EndpointResponse, Endpoints } from '@pragmatica/contract';
import { newSecret, secretHash } from '../../auth/secrets.js';
import { ServiceError } from '../../errors.js';
import { approvalLinkByHash, insertApprovalLink, type ApprovalLink } from '../../storage/approvals.js';
import type { Site } from '../../storage/rows.js';
import { siteById } from '../../storage/sites.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { APPROVAL_TEXTS } from '../../texts/approvals.js';
import { say } from '../../texts/say.js';
import { withSiteLock } from '../site-lock.js';
import type { Acting, SiteTools } from '../use-case.js';
import { describeApproval } from './detail.js';
import { decide, findApproval, type ApprovalTools, type DecisionRequest } from './requests.js';

type Made = EndpointResponse<Endpoints['linkApproval']>;

/** Makes a link by which somebody without an account approves. Its secret is given out here and never again. */
export async function linkApproval(
  key: string,
  id: number,
  { name, days }: { readonly name: string; readonly days: number },
  { store, actor }: Acting,
): Promise<Made> {
  const secret = newSecret();
  return withSiteLock(store, key, async (transaction, site) => {
    const { message } = await findApproval(transaction, site, id);
    const values = { hash: secretHash(secret), name, by: actor, days };
    const until = await insertApprovalLink(transaction, id, values);
    audit(transaction, site, actor, 'approval', () => say(APPROVAL_TEXTS.linkMade, { name, message }));
    await transaction.flush();
    // Behind the sign browsers send nothing: the secret is in no address that anybody logs.
    return { path: `/approval#${secret}`, until: until.toISOString() };
  });
}

/** What whoever has a link looks at. @throws ServiceError 404 for a link that is over */
export async function openApproval(
  tools: SiteTools,
  store: Store,
  secret: string,
  locale: string,
): Promise<ApprovalSheet> {
  const { link, site } = await found(store, secret);
  const approval = await findApproval(store, site, link.approvalId);
  const detail = await describeApproval(tools, store, site, approval, { who: undefined, locale });
  return { ...detail, site: site.key, name: link.name, until: link.until.toISOString() };
}

/** @throws ServiceError 404 for a link that is over, 409 where nothing is to be decided any more */
export async function decideByLink(
  tools: SiteTools & ApprovalTools,
  store: Store,
  { secret, ...request }: DecisionRequest & { readonly secret: string },
  locale: string,
): Promise<ApprovalSheet> {
  const { link, site } = await found(store, secret);
  const by = say(APPROVAL_TEXTS.byLink, { name: link.name, by: link.by });
  await withSiteLock(store, site.key, (transaction, locked) =>
    decide(tools, transaction, locked, { id: link.approvalId, ...request, by, login: undefined }),
  );
  return openApproval(tools, store.fork(), secret, locale);
}

async function found(store: Store, secret: string): Promise<{ link: ApprovalLink; site: Site }> {
  const link = await approvalLinkByHash(store, secretHash(secret));
  const site = link && (await siteById(store, link.siteId));
  if (!site) throw new ServiceError('approval-link-over', {});
  return { link, site };
}
