import type { Environment } from '@pragmatica/contract';
import { lineName } from '@pragmatica/core';
import type { Settings } from '../settings.js';

/** Where browsers load lines from: the gateway, at any name that is no site's. Without a slash at its end. */
export function lineBase({
  PRAGMATICA_LINE_ADDRESS: address,
  PRAGMATICA_GATEWAY_PORT: port,
}: Settings): string {
  return (address ?? `http://gateway.localhost:${port}/one`).replace(/\/$/, '');
}

/** Where web servers and templates ask for fragments: the gateway itself, beside its lines. */
export function fragmentBase(settings: Settings): string {
  const line = lineBase(settings);
  if (line.endsWith('/one')) return line.replace(/\/one$/, '/fragments');
  return `http://gateway.localhost:${settings.PRAGMATICA_GATEWAY_PORT}/fragments`;
}

/** Where browsers report what a content policy stops: the gateway itself, beside its lines. */
export function reportAddress(settings: Settings): string {
  const line = lineBase(settings);
  const base = line.endsWith('/one') ? line.slice(0, -'/one'.length) : undefined;
  return `${base ?? `http://gateway.localhost:${settings.PRAGMATICA_GATEWAY_PORT}`}/policy-reports`;
}

/** The address of a site's line. */
export function lineAddress(base: string, site: string, environment: Environment): string {
  return `${base}/${lineName(site, environment)}.js`;
}
