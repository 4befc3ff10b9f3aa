/** Milliseconds that this process has worked so far: whatever else the machine does meanwhile does not count. */
export function ownTimeMs(): number {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1_000;
}
