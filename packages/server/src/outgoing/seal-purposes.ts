/** What each sealed value of the database is bound to: with anything else it does not open. */
export const SEAL_PURPOSES = {
  secondFactor: (member: number) => `second factor of ${member}`,
  hostAccess: (site: number, host: string) => `host-access ${site} ${host}`,
  webhook: (site: number, url: string) => `webhook ${site} ${url}`,
} as const;
