import { statfs } from 'node:fs/promises';
import type { DoctorEvent } from '@pragmatica/contract';
import { examine, type DiskFacts, type HostFacts, type InstallationFacts } from '@pragmatica/core';
import type { IdentityProvider } from '../../auth/identity-provider.js';
import type { Mailer } from '../../outgoing/mailer.js';
import { SealError, type SecretBox } from '../../outgoing/secret-box.js';
import type { SiteClient } from '../../outgoing/site-client.js';
import { consoleAddress, type Settings } from '../../settings.js';
import { listBackupRows, readBackupRule } from '../../storage/copies/backup-rows.js';
import { sealedValues } from '../../storage/copies/sealed.js';
import {
  allHosts,
  databaseHealth,
  needsGateway,
  processCounts,
  type KnownHost,
} from '../../storage/installation.js';
import type { Store } from '../../storage/store.js';
import { USER_AGENT } from '../../survey/tools.js';
import { purposeOf } from '../copies/reseal.js';
import type { BackupFolder } from '../copies/backup-folder.js';
import { whyNobodyAnswers } from '../network-words.js';
import { knock, type Doors } from './doors.js';
import { STUCK_S } from './stuck.js';

export interface DoctorTools {
  readonly settings: Settings;
  readonly client: SiteClient;
  readonly box: SecretBox;
  readonly folder: BackupFolder;
  /** Undefined where none is set. */
  readonly provider: Pick<IdentityProvider, 'name' | 'examine'> | undefined;
  /** Undefined where no mail server is set. */
  readonly mailer: Mailer | undefined;
  readonly doors: Doors;
}

const HOSTS_AT_ONCE = 8;
const TIMEOUT_MS = 10_000;
const BACKUPS_LOOKED_AT = 50;

/** What is well with the installation, what is not, and what to do; it tells how many hosts have answered on its way. */
export async function* examineInstallation(store: Store, tools: DoctorTools): AsyncGenerator<DoctorEvent> {
  const { settings, box, folder, mailer, provider, doors } = tools;
  const known = await allHosts(store);
  yield { type: 'progress', done: 0, of: known.length };
  const [database, counts, rule, rows, sealed] = [
    await databaseHealth(store),
    await processCounts(store, STUCK_S),
    await readBackupRule(store),
    await listBackupRows(store, BACKUPS_LOOKED_AT),
    await sealedValues(store),
  ];
  const hosts: HostFacts[] = [];
  for await (const host of asked(tools.client, known)) {
    hosts.push(host);
    yield { type: 'progress', done: hosts.length, of: known.length };
  }
  const gatewayHosts = known.filter(needsGateway).length;
  const last = rows.find(({ state }) => state === 'done');
  const facts: InstallationFacts = {
    now: new Date(),
    database,
    disks: await disksOf([settings.PRAGMATICA_DATA, folder.path]),
    backups: {
      isOn: rule.isOn,
      lastAt: last?.madeAt ?? null,
      failure: rows[0]?.state === 'failed' ? (rows[0].problem ?? '') : null,
    },
    workers: counts.workers,
    gateways: counts.gateways,
    gatewayHosts,
    stuck: counts.stuck,
    unopened: sealed.filter((value) => !opens(box, value)).map(({ name }) => name),
    mail: { isSet: mailer !== undefined, problem: await mailProblem(mailer), wanted: counts.mailing },
    identityProvider: provider ? { name: provider.name, problem: await provider.examine() } : null,
    address: {
      isHttps: consoleAddress(settings).startsWith('https:'),
      hasSecureCookies: settings.PRAGMATICA_SECURE_COOKIES,
    },
    doors: await knock(doors, {
      everywhere: counts.gateways,
      here: counts.gatewaysHere,
      isNeeded: gatewayHosts > 0,
    }),
    hosts: hosts.sort((a, b) => (a.host < b.host ? -1 : 1)),
  };
  yield { type: 'done', at: facts.now.toISOString(), diagnoses: examine(facts) };
}

function opens(box: SecretBox, value: Awaited<ReturnType<typeof sealedValues>>[number]): boolean {
  try {
    box.open(value.sealed, purposeOf(value));
    return true;
  } catch (error) {
    if (error instanceof SealError) return false;
    throw error;
  }
}

/** One for each disk, though more than one folder lies on it. */
async function disksOf(folders: readonly string[]): Promise<DiskFacts[]> {
  const disks = new Map<string, DiskFacts>();
  for (const folder of folders) {
    const found = await statfs(folder).catch(() => undefined);
    if (!found) continue;
    const { bavail, blocks, bsize, type } = found;
    disks.set(`${type} ${blocks} ${bavail}`, {
      folder,
      freeBytes: bavail * bsize,
      allBytes: blocks * bsize,
    });
  }
  return [...disks.values()];
}

async function mailProblem(mailer: Mailer | undefined): Promise<string | null> {
  try {
    await mailer?.verify();
    return null;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** Hosts as they have answered, a few at a time. */
async function* asked(client: SiteClient, hosts: readonly KnownHost[]): AsyncGenerator<HostFacts> {
  const waiting = [...hosts];
  const running = new Map<string, Promise<HostFacts>>();
  while (waiting.length + running.size > 0) {
    while (running.size < HOSTS_AT_ONCE && waiting.length > 0) {
      const host = waiting.shift()!;
      running.set(host.host, ask(client, host));
    }
    const next = await Promise.race(running.values());
    running.delete(next.host);
    yield next;
  }
}

async function ask(client: SiteClient, { host, address }: KnownHost): Promise<HostFacts> {
  const url = new URL(address);
  const signal = AbortSignal.timeout(TIMEOUT_MS);
  try {
    const response = await client.get(url.origin, '/', {
      headers: { accept: 'text/html', 'user-agent': USER_AGENT },
      signal,
    });
    await response.body?.cancel();
    const certificateUntil = await client.certificateUntil(url, signal);
    return { host, address, status: response.status, reason: null, certificateUntil };
  } catch (error) {
    const certificateUntil = await client.certificateUntil(url, AbortSignal.timeout(TIMEOUT_MS));
    return { host, address, status: null, reason: whyNobodyAnswers(error), certificateUntil };
  }
}
