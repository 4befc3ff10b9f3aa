import type { ApiClient, VisitRoundInput } from '@pragmatica/contract';

/** Has a browser visit a site, and waits until it has. @returns the round, as it is shown */
export async function visitSite(client: ApiClient, site: string, body: VisitRoundInput = {}) {
  const { data } = await client.call('startVisits', { params: { site }, body });
  const params = { site, round: data.number };
  for await (const event of client.stream('watchVisits', { params }))
    if (event.type === 'progress' && event.round.state === 'done') break;
  return (await client.call('showVisitRound', { params })).data;
}
