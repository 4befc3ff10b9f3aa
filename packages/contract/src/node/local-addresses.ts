import { isIP } from 'node:net';
import ipaddr from 'ipaddr.js';
import { isLocalhost } from './localhost-lookup.js';

/**
 * Whether an IP address is anything but a public one: loopback, private, link-local, unspecified, multicast, reserved,
 * or one of these inside an IPv6 address (RFC 6890 and what maps or translates to it).
 */
export function isLocalAddress(address: string): boolean {
  if (!ipaddr.isValid(address)) return true;
  const parsed = ipaddr.process(address);
  if (parsed.range() !== 'unicast') return true;
  if (!(parsed instanceof ipaddr.IPv6)) return false;
  // NAT64 and 6to4 carry an IPv4 address.
  const [first, second] = parsed.parts as [number, number];
  return first === 0x64 && second === 0xff9b;
}

/** Whether a hostname is a local address as it is written; names that only resolve to one are found out later. */
export function isLocalHost(hostname: string): boolean {
  const bare = hostname.replace(/^\[|\]$/g, '');
  return isIP(bare) === 0 ? isLocalhost(bare) : isLocalAddress(bare);
}
