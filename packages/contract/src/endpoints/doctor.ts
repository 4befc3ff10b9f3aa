import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';

/** What is wrong with the installation. */
export const doctorEndpoints = {
  examineInstallation: {
    method: 'GET',
    path: '/doctor',
    summary: 'Examines the installation: database, disks, clocks, backups, workers, gateways, mail, hosts',
    needs: { installation: 'own' },
    stream: schemas.doctorEvent,
  },
} as const satisfies Record<string, Endpoint>;
