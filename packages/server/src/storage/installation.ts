import type { DeliveryKey } from '@pragmatica/core';
import { emOf } from './em.js';
import { migrations } from './migrations/index.js';
import type { Store } from './store.js';

export interface DatabaseHealth {
  readonly answerMs: number;
  /** How far its clock is ahead of this machine's. */
  readonly skewMs: number;
  readonly missing: number;
  readonly unknown: number;
}

/** How the database does: how fast, by which clock, and in which form. */
export async function databaseHealth(store: Store): Promise<DatabaseHealth> {
  const em = emOf(store);
  // The first question may have to wait for a connection.
  await em.execute('select 1');
  const asked = Date.now();
  const [row] = await em.execute<{ at: string | Date }[]>('select clock_timestamp() as at');
  const answered = Date.now();
  const done = await em.execute<{ name: string }[]>('select name from migration');
  const names = new Set(done.map(({ name }) => name));
  const known = new Set<string>(migrations.map(({ name }) => name));
  return {
    answerMs: answered - asked,
    skewMs: new Date(row!.at).getTime() - (asked + answered) / 2,
    missing: [...known].filter((name) => !names.has(name)).length,
    unknown: [...names].filter((name) => !known.has(name)).length,
  };
}

export interface ProcessCounts {
  readonly workers: number;
  readonly gateways: number;
  /** Those that come to the database from where this service does. */
  readonly gatewaysHere: number;
  /** Surveys and rounds of visits that have waited longer than so. */
  readonly stuck: number;
  /** Sites that are to send mail. */
  readonly mailing: number;
}

/** Who is connected to the database, and what waits for them. @param waitedS - seconds from which on something is stuck */
export async function processCounts(store: Store, waitedS: number): Promise<ProcessCounts> {
  const [row] = await emOf(store).execute<ProcessCounts[]>(
    `select
       (select count(*)::int from pg_stat_activity where datname = current_database() and application_name = 'pragmatica-calls')
         as workers,
       (select count(*)::int from pg_stat_activity where datname = current_database() and application_name = 'pragmatica-gateway')
         as gateways,
       (select count(*)::int from pg_stat_activity where datname = current_database() and application_name = 'pragmatica-gateway'
          and client_addr is not distinct from inet_client_addr()) as "gatewaysHere",
       (select count(*)::int from survey where state = 'waiting' and created_at < now() - ? * interval '1 second')
         + (select count(*)::int from visit_round where state = 'waiting' and created_at < now() - ? * interval '1 second')
         as stuck,
       (select count(*)::int from site_watch where mail_to <> '[]') as mailing`,
    [waitedS, waitedS],
  );
  return row!;
}

export interface KnownHost {
  readonly host: string;
  /** Where visitors reach it. */
  readonly address: string;
  readonly delivery: DeliveryKey;
}

/** Every host of every site. */
export async function allHosts(store: Store): Promise<readonly KnownHost[]> {
  return emOf(store).execute<KnownHost[]>(
    `select host, coalesce(address, 'http://' || host) as address, delivery from host order by host`,
  );
}

/** Whether a host's pages get their parts from a gateway. */
export function needsGateway({ delivery }: KnownHost): boolean {
  return delivery === 'gateway';
}
