export { EXAMINATIONS, examine } from './examine.js';
export type { Diagnosis, DiskFacts, Health, HostFacts, InstallationFacts } from './types.js';
