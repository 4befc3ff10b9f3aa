/** Of an address that messages go to what says where that is: the rest of it may be a secret, and is for owners of the site. */
export function onlyHost(address: string): string {
  return URL.canParse(address) ? new URL(address).origin : address;
}
