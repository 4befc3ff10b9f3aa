import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';

const backup = z.strictObject({ backup: z.coerce.number().int().min(1).max(2_147_483_647) });

/** As a backup comes and goes: a tar archive, or one that is compressed. */
export const BACKUP_TYPES = ['application/x-tar', 'application/gzip'] as const;

/** Copies of the whole installation. */
export const backupEndpoints = {
  takeBackup: {
    method: 'GET',
    path: '/backup',
    summary: 'The whole installation as one file, everything of one moment',
    needs: { installation: 'own' },
    needsConfirmation: true,
    query: schemas.takeBackupQuery,
    download: BACKUP_TYPES[0],
  },
  restoreBackup: {
    method: 'POST',
    path: '/restore',
    summary: 'Makes an empty installation what a backup says',
    needs: { installation: 'own' },
    needsConfirmation: true,
    query: schemas.restoreQuery,
    upload: BACKUP_TYPES,
    stream: schemas.restoreEvent,
  },
  bringSiteBack: {
    method: 'POST',
    path: '/restore/site',
    summary: 'Brings one site of a backup into this installation, as a site of its own',
    needs: { installation: 'own' },
    needsConfirmation: true,
    query: schemas.bringSiteQuery,
    upload: BACKUP_TYPES,
    stream: schemas.bringSiteEvent,
    makes: 'sites',
  },
  listBackups: {
    method: 'GET',
    path: '/backups',
    summary:
      'The backups that the installation made of itself, the newest first, and when it makes the next one',
    needs: { installation: 'own' },
    response: schemas.backupList,
  },
  setBackupRule: {
    method: 'PUT',
    path: '/backups/rule',
    summary: 'Set when backups are made, for whom they are encrypted, and how many are kept',
    needs: { installation: 'own' },
    needsConfirmation: true,
    body: schemas.backupRuleInput,
    response: schemas.backupRule,
  },
  askForBackup: {
    method: 'POST',
    path: '/backups',
    summary: 'Makes a backup now, in the folder of the worker',
    needs: { installation: 'own' },
    response: schemas.keptBackup,
    status: 201,
  },
  showBackup: {
    method: 'GET',
    path: '/backups/{backup}',
    summary: 'What is in a backup',
    needs: { installation: 'own' },
    params: backup,
    response: schemas.backupContents,
  },
  fetchBackup: {
    method: 'GET',
    path: '/backups/{backup}/file',
    summary: 'The file of a backup, as it lies in the folder',
    needs: { installation: 'own' },
    needsConfirmation: true,
    params: backup,
    download: 'application/octet-stream',
  },
  bringSiteBackFrom: {
    method: 'POST',
    path: '/backups/{backup}/site',
    summary: 'Brings one site of a backup in the folder back, as a site of its own',
    needs: { installation: 'own' },
    needsConfirmation: true,
    params: backup,
    query: schemas.bringSiteQuery,
    stream: schemas.bringSiteEvent,
    makes: 'sites',
  },
  removeBackup: {
    method: 'DELETE',
    path: '/backups/{backup}',
    summary: 'Cancels a backup that is being made, or removes one with its file',
    needs: { installation: 'own' },
    needsConfirmation: true,
    params: backup,
  },
} as const satisfies Record<string, Endpoint>;
