import { catalogue } from './catalogue.js';

/** Where a request for approval stands, in a word. */
export const APPROVAL_STATES = catalogue('core.approvals', {
  open: 'waiting',
  approved: 'approved',
  declined: 'declined',
  withdrawn: 'withdrawn',
  void: 'void',
  published: 'published',
});
