import type { Settings } from '../settings.js';

/** Names the pass in an address, and the cookie that keeps it. */
export const PASS_NAME = 'pragmatica-preview';
/** What a preview answers itself lies below. */
export const OWN_FOLDER = '/.pragmatica-preview';

type Addresses = Pick<
  Settings,
  'PRAGMATICA_PREVIEW_ADDRESS' | 'PRAGMATICA_PREVIEW_PORT' | 'PRAGMATICA_ADDRESS'
>;

/** Where people reach previews. */
export function previewOrigin({
  PRAGMATICA_PREVIEW_ADDRESS: address,
  PRAGMATICA_PREVIEW_PORT: port,
}: Addresses): string {
  return new URL(address ?? `http://preview.localhost:${port}`).origin;
}

/**
 * Whether previews stand where the console’s cookies do: a page of a stranger would then speak to the console as whoever is signed in.
 * Ports make no difference to cookies (RFC 6265, 8.5).
 */
export function isBesideConsole(settings: Addresses): boolean {
  const console = new URL(settings.PRAGMATICA_ADDRESS ?? 'http://localhost').hostname;
  return new URL(previewOrigin(settings)).hostname === console;
}

/** Only this machine finds it: others have no such name. */
export function isOnlyHere(settings: Addresses): boolean {
  return /(?:^|\.)localhost$/.test(new URL(previewOrigin(settings)).hostname);
}

/** A path of the preview, whatever it looks like: `//elsewhere/` is no address of somebody else. */
export function ownPath({ pathname, search, hash }: URL): string {
  return pathname.replace(/^\/+/, '/') + search + hash;
}

/** Whether a request came to the name that previews have: the console may stand at another one of this machine. */
export function isAskedHere(host: string | undefined, settings: Addresses): boolean {
  const base = `http://${host ?? ''}`;
  return URL.canParse(base) && new URL(base).hostname === new URL(previewOrigin(settings)).hostname;
}
