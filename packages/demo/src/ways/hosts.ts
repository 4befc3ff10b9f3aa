import type { HostResource } from '@pragmatica/contract';

/** The site with a host for each way: the same pages and the same plan on all of them. */
export const WAYS_SITE = 'ferry-ways';

export interface WayPorts {
  readonly gatewayPort: number;
  /** Of the demo site’s own server. */
  readonly sitePort: number;
  /** Of a Node.js server of somebody’s own. */
  readonly nodePort: number;
  /** Of nginx. */
  readonly nginxPort: number;
}

interface WayHost {
  readonly host: string;
  readonly delivery: NonNullable<HostResource['delivery']>;
  readonly port: keyof WayPorts;
}

const named = (name: string): string => `${name}.skerrywick.localhost`;

export const WAY_HOSTS: readonly WayHost[] = [
  { host: named('by-gateway'), delivery: 'gateway', port: 'gatewayPort' },
  { host: named('by-line'), delivery: 'line', port: 'sitePort' },
  { host: named('by-async-line'), delivery: 'async-line', port: 'sitePort' },
  { host: named('by-paste'), delivery: 'paste', port: 'nodePort' },
  { host: named('by-middleware'), delivery: 'middleware', port: 'nodePort' },
  { host: named('by-includes'), delivery: 'fragments', port: 'nginxPort' },
  { host: named('by-folder'), delivery: 'folder', port: 'nginxPort' },
];

/** The host of a way. */
export function wayHost(delivery: WayHost['delivery']): string {
  return WAY_HOSTS.find((one) => one.delivery === delivery)!.host;
}
