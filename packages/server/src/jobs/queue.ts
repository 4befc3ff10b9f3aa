import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Listener } from '../storage/listener.js';
import { callQueue, queueCalls } from '../storage/queue-calls.js';

/** What the workers of an installation do, by the names of the queues; each is told what it is about as plain data. */
export interface QueuedJobs {
  /** Works on a survey until it is done, with at most so many requests at once; as many as were asked for when left out. */
  readonly survey: { readonly survey: number; readonly concurrency?: number };
  /** Makes the visits of a round. */
  readonly visits: { readonly round: number };
}

type QueueName = keyof QueuedJobs;
const QUEUES: readonly QueueName[] = ['survey', 'visits'];

/** Hours after which a job whose worker never came back is forgotten; what it was about is taken up by itself. */
const EXPIRE_HOURS = 12;
const POLLING_S = 0.5;
const CONNECTIONS = 3;
const STOP_MS = 10_000;

/** The queue of jobs in the database. Whoever serves puts jobs there, workers anywhere take them. */
export class JobQueue {
  readonly #boss: PgBoss;
  readonly #log: Logger;
  readonly #pollingS: number;
  /** Of those who take jobs, so that they look at once when there is one. */
  readonly #lanes = new Map<string, string[]>();
  readonly #calls: Listener | undefined;

  /**
   * @param isKeeper - whether it also keeps the queue in order, as one of the workers must
   * @param pollingS - how often whoever takes jobs looks, called or not
   */
  constructor(databaseUrl: string, log: Logger, isKeeper: boolean, pollingS = POLLING_S) {
    this.#log = log;
    this.#pollingS = pollingS;
    if (isKeeper)
      this.#calls = queueCalls(databaseUrl, (name) => {
        for (const lane of this.#lanes.get(name) ?? []) this.#boss.notifyWorker(lane);
      });
    this.#boss = new PgBoss({
      connectionString: databaseUrl,
      application_name: 'pragmatica-jobs',
      max: CONNECTIONS,
      supervise: isKeeper,
      schedule: isKeeper,
    });
    this.#boss.on('error', (error) => log.warn({ err: error }, 'the queue of jobs'));
  }

  /** Makes the queue's tables where there are none. @throws what the database says */
  async start(): Promise<void> {
    await this.#boss.start();
    for (const name of QUEUES) await this.#boss.createQueue(name);
    await this.#calls?.start();
  }

  /** @param afterS - seconds before which nobody takes it */
  async send<N extends QueueName>(name: N, data: QueuedJobs[N], afterS = 0): Promise<void> {
    await this.#boss.send(name, data, { retryLimit: 0, expireInHours: EXPIRE_HOURS, startAfter: afterS });
    if (afterS > 0) return;
    await callQueue(this.#boss.getDb(), name).catch((error: unknown) =>
      this.#log.warn({ err: error }, 'nobody was called to the queue; it is looked at soon'),
    );
  }

  /** Takes jobs, so many at once. */
  async work<N extends QueueName>(
    name: N,
    atOnce: number,
    run: (data: QueuedJobs[N]) => Promise<void>,
  ): Promise<void> {
    const polling = { pollingIntervalSeconds: this.#pollingS };
    const lanes: string[] = [];
    this.#lanes.set(name, lanes);
    for (let lane = 0; lane < atOnce; lane++)
      lanes.push(
        await this.#boss.work<QueuedJobs[N]>(name, polling, async ([job]) => {
          if (job) await run(job.data);
        }),
      );
  }

  /** Takes no more jobs, and waits for those under way. */
  async close(): Promise<void> {
    await this.#calls?.close();
    await this.#boss.stop({ graceful: true, wait: true, timeout: STOP_MS });
  }
}
