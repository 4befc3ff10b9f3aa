export { EXAMINATIONS, examine } from './examine.js';
export type { Diagnosis, DiskFacts, Health, DoorFacts, HostFacts, InstallationFacts } from './types.js';
