import { catalogue } from '@pragmatica/core';

export const APPROVAL_TEXTS = catalogue('server.approvals', {
  ruleOn: 'From now on somebody else approves what goes live.',
  ruleOff: 'What goes live no longer needs approval.',
  asked: 'Asked for approval: {message}',
  askedRelease: 'Asked for approval of release {release}: {message}',
  approved: 'Approved: {message}{note, select, none {} other { ({note})}}',
  declined: 'Declined: {message}{note, select, none {} other { ({note})}}',
  withdrew: 'Withdrew the request for approval: {message}',
  linkMade: 'Made a link by which {name} can approve: {message}',
  byLink: '{name} (link of {by})',
});
