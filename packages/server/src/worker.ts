import { isLocalHost } from '@pragmatica/contract/node';
import { createLog } from '@pragmatica/runtime';
import { BrowserPool } from '@pragmatica/visitor';
import { JobQueue } from './jobs/queue.js';
import { JobRunner } from './jobs/runner.js';
import { makeBackupsJob } from './jobs/make-backups.js';
import { resumeForsaken } from './jobs/resume-forsaken.js';
import { sendNotices } from './jobs/send-notices.js';
import { startScheduled } from './jobs/start-scheduled.js';
import { startWatched } from './jobs/start-watched.js';
import { surveyJob } from './jobs/survey.js';
import { sweepContentsJob } from './jobs/sweep-contents.js';
import { visitsJob } from './jobs/visits.js';
import { createMailer } from './outgoing/mailer.js';
import { openSecretBox } from './outgoing/secret-box.js';
import { SiteClient, publicLookup } from './outgoing/site-client.js';
import { Readers } from './reading/readers.js';
import { backupsFolder, consoleAddress, type Settings } from './settings.js';
import { BackupFolder } from './site/copies/backup-folder.js';
import { Sets } from './site/sets.js';
import { SiteSurveys } from './site/surveys/site-surveys.js';
import { SurveyBook } from './site/surveys/survey-book.js';
import { tellSurveyNews } from './site/watch/survey-news.js';
import { CopyStore } from './storage/copies/copy-store.js';
import { assertAnswers, migrate, prepareDatabase, storeOf } from './storage/orm.js';

export interface Worker {
  /** Gives back what is under way, for others to take up, then stops. */
  close(): Promise<void>;
}

/** Surveys that one worker works on at once. */
const SURVEYS_AT_ONCE = 2;
/** Rounds of visits: a question that somebody waits for goes beside a long round. */
const ROUNDS_AT_ONCE = 2;

/**
 * Starts a worker: what takes longer than a call. Any number of them, on any machines, share the work by the database.
 *
 * @throws DatabaseError where the database does not answer
 */
export async function startWorker(settings: Settings, databaseUrl: string): Promise<Worker> {
  const log = createLog(settings.PRAGMATICA_LOG_LEVEL).child({ part: 'worker' });
  const orm = await prepareDatabase(databaseUrl, settings.PRAGMATICA_LIMITS);
  const readers = new Readers(log.child({ part: 'readers' }));
  const box = openSecretBox(settings.PRAGMATICA_SECRET_KEY, settings.PRAGMATICA_DATA);
  const folder = new BackupFolder(backupsFolder(settings));
  const mailer = createMailer(settings);
  const client = new SiteClient(settings.PRAGMATICA_LOCAL_ORIGINS, box, (html, url) =>
    readers.run('passwordForm', { html, url }),
  );
  const queue = new JobQueue(databaseUrl, log, true);
  const abort = new AbortController();
  try {
    await assertAnswers(orm, databaseUrl);
    await migrate(orm);
    await queue.start();
  } catch (error) {
    await Promise.all([orm.close(true), readers.close(), client.close()]);
    throw error;
  }
  const tools = { store: storeOf(orm), client, readers, log };
  const jobs = new JobRunner(
    [
      resumeForsaken(tools.store, queue),
      startScheduled(tools.store, queue, log),
      startWatched(tools.store, queue, log),
      sendNotices({ ...tools, box, mailer }),
      sweepContentsJob(tools.store),
      makeBackupsJob({ store: tools.store, box, copies: new CopyStore(databaseUrl, orm), folder }),
    ],
    log,
  );
  const pool = new BrowserPool({
    executable: settings.PRAGMATICA_CHROMIUM,
    // Where the installation may be visited there is nothing to keep a browser from.
    guard: client.mayBeLocal ? undefined : { lookup: publicLookup, mayAsk: (host) => !isLocalHost(host) },
  });
  const settling = {
    address: consoleAddress(settings),
    secondLookS: settings.PRAGMATICA_SECOND_LOOK_S,
  };
  const sets = new Sets();
  const visiting = { ...tools, pool, sets, settling };
  const surveys = new SiteSurveys(new SurveyBook(readers), sets);
  await queue.work('visits', ROUNDS_AT_ONCE, visitsJob(visiting, queue, abort.signal));
  await queue.work(
    'survey',
    SURVEYS_AT_ONCE,
    surveyJob(tools, queue, abort.signal, (survey) =>
      tellSurveyNews(surveys, tools.store.fork(), survey, settling.address),
    ),
  );
  log.info('started');
  return {
    async close() {
      abort.abort();
      await Promise.all([queue.close(), jobs.close()]);
      mailer?.close();
      await Promise.all([readers.close(), client.close(), pool.close()]);
      await orm.close(true);
      log.info('stopped');
    },
  };
}
