/** Keys name sites and snippets in addresses and commands: lower-case letters, digits and dashes. */
export const KEY_PATTERN = /^[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?$/;

/** A key made from a name: "Harbour chat (new)" → "harbour-chat-new". Empty if the name holds no letter or digit. */
export function keyFromName(name: string): string {
  return name
    .normalize('NFKD')
    .replace(/\p{Mark}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60)
    .replace(/-$/, '');
}
