import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { site } from './params.js';

const approval = site.extend({ approval: z.coerce.number().int().min(1).max(2_147_483_647) });

/** Four eyes: what goes live is looked at by somebody else first. */
export const approvalEndpoints = {
  listApprovals: {
    method: 'GET',
    path: '/sites/{site}/approvals',
    summary: 'Whether what goes live needs approval, and the requests, the newest first',
    needs: { site: 'view' },
    params: site,
    query: schemas.newestQuery,
    response: schemas.approvalList,
  },
  setApprovalRule: {
    method: 'PUT',
    path: '/sites/{site}/approval-rule',
    summary: 'Say whether somebody else approves what goes live',
    needs: { site: 'own' },
    params: site,
    body: schemas.approvalRuleInput,
    response: schemas.approvalRule,
  },
  askApproval: {
    method: 'POST',
    path: '/sites/{site}/approvals',
    summary: 'Ask for approval of the draft that you saw (If-Match), or of a release',
    needs: { site: 'edit' },
    makes: 'approvals',
    params: site,
    body: schemas.approvalInput,
    response: schemas.approval,
    status: 201,
    needsIfMatch: true,
  },
  showApproval: {
    method: 'GET',
    path: '/sites/{site}/approvals/{approval}',
    summary: 'A request with what would change, what the checks find, rehearsal and weight',
    needs: { site: 'view' },
    params: approval,
    response: schemas.approvalDetail,
  },
  decideApproval: {
    method: 'POST',
    path: '/sites/{site}/approvals/{approval}/decision',
    summary: 'Approve what somebody else asked for, or decline it',
    needs: { site: 'publish' },
    params: approval,
    body: schemas.approvalDecision,
    response: schemas.approval,
  },
  withdrawApproval: {
    method: 'DELETE',
    path: '/sites/{site}/approvals/{approval}',
    summary: 'Withdraw a request',
    needs: { site: 'edit' },
    params: approval,
  },
  linkApproval: {
    method: 'POST',
    path: '/sites/{site}/approvals/{approval}/links',
    summary: 'Make a link for somebody without an account who only approves',
    needs: { site: 'own' },
    needsConfirmation: true,
    params: approval,
    body: schemas.approvalLinkInput,
    response: schemas.approvalLink,
    status: 201,
  },
  openApproval: {
    method: 'POST',
    path: '/approval',
    summary: 'What whoever has a link is to approve; needs no account',
    needs: 'nothing',
    body: schemas.approvalSecret,
    response: schemas.approvalSheet,
  },
  decideByLink: {
    method: 'POST',
    path: '/approval/decision',
    summary: 'Approve with a link, or decline; needs no account',
    needs: 'nothing',
    body: schemas.approvalByLink,
    response: schemas.approvalSheet,
  },
} as const satisfies Record<string, Endpoint>;
