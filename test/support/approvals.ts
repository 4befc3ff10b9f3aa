import type { Stage } from './stage.js';

/** Asks for approval of the demo site’s draft, as request 1. The site needs none: nothing else is different. */
export async function askForApproval(stage: Stage): Promise<void> {
  const params = { site: 'skerrywick' };
  await stage.client.call('askApproval', { params, ifMatch: '*', body: { message: 'Looked at' } });
}
