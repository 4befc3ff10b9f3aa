interface Ports {
  freePort(): Promise<number>;
}

/** A port that nothing else takes before the program starts that is to have it. */
export async function freePort(): Promise<number> {
  const ports = (await import(new URL('../../scripts/setup/ports.mjs', import.meta.url).href)) as Ports;
  return ports.freePort();
}
