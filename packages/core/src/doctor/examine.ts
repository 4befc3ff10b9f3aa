import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { backups } from './backups.js';
import { clock } from './clock.js';
import { cookies } from './cookies.js';
import { database } from './database.js';
import { disks } from './disks.js';
import { gateways } from './gateways.js';
import { hosts } from './hosts.js';
import { identity } from './identity.js';
import { mail } from './mail.js';
import { ports } from './ports.js';
import { schema } from './schema.js';
import { seals } from './seals.js';
import type { Diagnosis, Examination, InstallationFacts } from './types.js';
import { workers } from './workers.js';

/** Everything that an installation is examined for, in the order in which it is told. */
export const EXAMINATIONS: readonly Examination[] = [
  ...[schema, database, clock, disks, backups],
  ...[workers, gateways, ports, seals, mail, identity, cookies, hosts],
];

/** What is well with an installation, what is not, and what to do about it. */
export function examine(facts: InstallationFacts): Diagnosis[] {
  return EXAMINATIONS.flatMap((one) => {
    const { id } = one;
    return one.examine(facts).map((found) => ({ id, title: DOCTOR_TEXTS.titles[id], ...found }));
  });
}
