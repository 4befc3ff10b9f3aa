import { isIP } from 'node:net';
import { isLocalhost } from '@pragmatica/contract/node';
import ipaddr from 'ipaddr.js';

/** An address that only this machine or its own network reaches. The message is for people. */
export class LocalAddressError extends Error {
  constructor(host: string, address: string) {
    super(
      `${host === address ? address : `${host} (${address})`} is an address of a private network, which Pragmatica does not visit. If the site really stands there, set PRAGMATICA_LOCAL_ORIGINS=1 on the service`,
    );
    this.name = 'LocalAddressError';
  }
}

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
