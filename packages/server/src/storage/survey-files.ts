import type { FileReading } from '@pragmatica/core';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** A script or style sheet that pages of a survey load, as it came. */
export interface SurveyFileRow {
  /** Whole address. */
  readonly address: string;
  readonly kind: 'script' | 'style';
  /** Null where there was no answer. */
  readonly status: number | null;
  /** Of its bytes: 32 hex digits; null where it could not be had. */
  readonly digest: string | null;
  readonly bytes: number | null;
  /** Its hashes for tags (Subresource Integrity); null where it could not be had. */
  readonly integrity: string | null;
  /** Its server lets the site's pages compare it. */
  readonly isShared: boolean;
  readonly contentType: string | null;
  readonly etag: string | null;
  readonly lastModified: string | null;
  readonly cacheControl: string | null;
  /** Names of the cookies that come with it. */
  readonly sentCookies: readonly string[];
  /** What it does; null where it could not be read. */
  readonly reading: FileReading | null;
}

/** A worker asks for a survey's files within so many seconds; then another may. */
const LEASE_S = 75;

/** Takes on the files of a survey. @returns whether it is this call that did */
export async function takeFiles(store: Store, survey: number): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    `update survey set files_until = now() + ? * interval '1 second'
     where id = ? and state = 'running' and (files_until is null or files_until < now()) returning id`,
    [LEASE_S, survey],
  );
  return rows.length > 0;
}

export async function saveFiles(
  store: Store,
  survey: number,
  files: readonly SurveyFileRow[],
): Promise<void> {
  if (files.length === 0) return;
  await emOf(store).execute(
    `insert into survey_file (survey_id, address, kind, status, digest, bytes, integrity, is_shared, content_type, etag, last_modified,
         cache_control, sent_cookies, reading)
       select ?, address, kind, status, digest, bytes, integrity, "isShared", "contentType", etag, "lastModified", "cacheControl", "sentCookies",
         nullif(reading, 'null')
       from jsonb_to_recordset(?::jsonb) as f(address text, kind text, status int, digest char(32), bytes int,
         integrity text, "isShared" boolean,
         "contentType" text, etag text, "lastModified" text, "cacheControl" text, "sentCookies" jsonb, reading jsonb)
     on conflict (survey_id, address) do nothing`,
    [survey, JSON.stringify(files).replaceAll('\\u0000', '\\ufffd')],
  );
}

/** The files of a survey by address. */
export async function filesOf(store: Store, survey: number): Promise<readonly SurveyFileRow[]> {
  return emOf(store).execute<SurveyFileRow[]>(
    `select address, kind, status, digest, bytes, integrity, is_shared as "isShared", content_type as "contentType", etag, last_modified as "lastModified",
       cache_control as "cacheControl", sent_cookies as "sentCookies", reading
     from survey_file where survey_id = ? order by address`,
    [survey],
  );
}
