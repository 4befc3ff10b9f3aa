import { API_BASE, type BackupRuleInput } from '@pragmatica/contract';
import { queryOptions } from '@tanstack/react-query';
import { useChangeOf } from './change';
import { api } from './client';

const OPEN_MS = 1_000;

/** The backups that the installation made of itself, and when it makes the next one. */
export const backupsQuery = queryOptions({
  queryKey: ['backups'],
  queryFn: async () => (await api.call('listBackups', {})).data,
  refetchInterval: ({ state }) =>
    state.data?.items.some((one) => one.state === 'waiting' || one.state === 'running') ? OPEN_MS : false,
});

/** What is in a backup. */
export const backupContentsQuery = (backup: number) =>
  queryOptions({
    queryKey: ['backups', backup],
    queryFn: async () => (await api.call('showBackup', { params: { backup } })).data,
  });

export function useSetBackupRule(onDone: () => void) {
  return useChangeOf('backups', (body: BackupRuleInput) => api.call('setBackupRule', { body }), onDone);
}

export function useAskForBackup() {
  return useChangeOf('backups', async () => (await api.call('askForBackup', {})).data);
}

/** Cancels one that is being made, or removes one. */
export function useRemoveBackup(onDone: () => void) {
  return useChangeOf('backups', (backup: number) => api.call('removeBackup', { params: { backup } }), onDone);
}

/** Has the browser download a backup. */
export async function downloadBackup(backup: number): Promise<void> {
  await api.assertConfirmed('fetchBackup');
  window.location.assign(`${API_BASE}/backups/${backup}/file`);
}

/** Brings a site of a kept backup back. */
export function bringSiteBack(backup: number, site: string, as: string, signal: AbortSignal) {
  return api.stream('bringSiteBackFrom', { params: { backup }, query: { site, as } }, signal);
}

/** Restores a whole backup into this installation, which is empty. */
export function restoreFile(file: File, signal: AbortSignal) {
  return api.upload('restoreBackup', { query: {} }, { type: 'application/gzip', bytes: file }, signal);
}
