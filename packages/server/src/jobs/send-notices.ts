import { retryAfterS } from '@pragmatica/core';
import type { Mailer } from '../outgoing/mailer.js';
import { SealError, type SecretBox } from '../outgoing/secret-box.js';
import type { SiteClient } from '../outgoing/site-client.js';
import { reasonOf } from '../outgoing/reason.js';
import { SEAL_PURPOSES } from '../outgoing/seal-purposes.js';
import { signedHeaders } from '../outgoing/webhook-signature.js';
import { endAttempt, sweepNotices, takeNotices, type DueNotice } from '../storage/notices.js';
import type { Store } from '../storage/store.js';
import { say } from '../texts/say.js';
import { WATCH_TEXTS as T } from '../texts/watch.js';
import type { Job } from './job.js';

const EVERY_MS = 1_500;
const AT_ONCE = 10;
const TIMEOUT_MS = 15_000;
/** One whose sender died is sent again after this. */
const TAKEN_MS = 60_000;
const KEPT = 500;
const MAX_ANSWER = 300;
const GONE = 410;

export interface NoticeTools {
  readonly store: Store;
  readonly client: Pick<SiteClient, 'post'>;
  readonly box: SecretBox;
  readonly mailer: Mailer | undefined;
}

interface Attempt {
  readonly isSent: boolean;
  readonly answer: string;
  /** Nothing else will come of another attempt. */
  readonly isFinal?: boolean;
}

/** Sends notices whose time has come. What does not arrive is tried again, later and later, and then given up. */
export function sendNotices(tools: NoticeTools): Job {
  return {
    name: 'send-notices',
    everyMs: EVERY_MS,
    async run(signal) {
      for (;;) {
        const due = await takeNotices(tools.store.fork(), AT_ONCE, TAKEN_MS);
        await Promise.all(due.map((notice) => send(notice, tools)));
        if (due.length < AT_ONCE || signal.aborted) break;
      }
      await sweepNotices(tools.store.fork(), KEPT);
    },
  };
}

async function send(notice: DueNotice, tools: NoticeTools): Promise<void> {
  const {
    isSent,
    answer,
    isFinal = false,
  } = await attempt(notice, tools).catch((error: unknown): Attempt => ({
    isSent: false,
    answer: reasonOf(error),
  }));
  const retryS = isSent || isFinal ? undefined : retryAfterS(notice.attempts);
  await endAttempt(tools.store.fork(), notice, isSent, answer.slice(0, MAX_ANSWER), retryS);
}

async function attempt(notice: DueNotice, tools: NoticeTools): Promise<Attempt> {
  const { publicId: id, target, subject, body } = notice;
  if (notice.channel === 'webhook') return tellProgram(notice, tools);
  if (!tools.mailer) return { isSent: false, answer: T.noMailServer, isFinal: true };
  const answer = await tools.mailer.send({ id, to: target, subject, text: body });
  return { isSent: true, answer: say(T.mailTaken, { answer }) };
}

async function tellProgram(
  { publicId, siteId, target, sealed, body }: DueNotice,
  { client, box }: NoticeTools,
): Promise<Attempt> {
  if (sealed === null) return { isSent: false, answer: T.isRemoved, isFinal: true };
  const secret = openSecret(box, sealed, SEAL_PURPOSES.webhook(siteId, target));
  if (secret === undefined) return { isSent: false, answer: T.noSecret, isFinal: true };
  const headers = signedHeaders(secret, publicId, Math.floor(Date.now() / 1_000), body);
  const response = await client.post(new URL(target), body, {
    headers,
    signal: AbortSignal.timeout(TIMEOUT_MS),
  });
  await response.body?.cancel();
  const { status, ok } = response;
  return status === GONE
    ? { isSent: false, answer: T.isGone, isFinal: true }
    : { isSent: ok, answer: say(T.answered, { status }) };
}

function openSecret(box: SecretBox, sealed: string, purpose: string): string | undefined {
  try {
    return box.open(sealed, purpose);
  } catch (error) {
    if (error instanceof SealError) return undefined;
    throw error;
  }
}
