import { followersOf, surveyById, type Survey } from '../storage/surveys.js';
import type { SurveyTools } from '../survey/tools.js';
import { walkSurvey } from '../survey/walk-survey.js';
import type { JobQueue, QueuedJobs } from './queue.js';

/**
 * Works on surveys that are in the queue. What a worker gives back when it stops goes there again.
 *
 * @param tellNews - is handed each survey that is over; by every worker that had a share in it
 */
export function surveyJob(
  tools: SurveyTools,
  queue: JobQueue,
  stop: AbortSignal,
  tellNews: (survey: Survey) => Promise<void>,
) {
  return async (job: QueuedJobs['survey']): Promise<void> => {
    const { survey: id } = job;
    let own = job;
    try {
      await walkSurvey(id, job.concurrency, tools, stop, async ({ options: { concurrency, delayMs } }) => {
        if (delayMs > 0 || concurrency < 2) return concurrency;
        // Another worker joins in; together they ask for no more pages at once than one alone would.
        const share = Math.floor(concurrency / 2);
        await queue.send('survey', { survey: id, concurrency: share });
        own = { survey: id, concurrency: concurrency - share };
        return concurrency - share;
      });
    } catch (error) {
      // It is taken up again when nobody has worked on it for a while.
      tools.log.warn({ err: error, survey: id }, 'work on a survey was broken off');
    }
    const store = tools.store.fork();
    const survey = await surveyById(store, id);
    const isOver = survey?.state !== 'running' && survey?.state !== 'waiting';
    if (!isOver && stop.aborted) await queue.send('survey', own);
    if (!isOver || !survey) return;
    await tellNews(survey).catch((error: unknown) => {
      tools.log.warn({ err: error, survey: id }, 'what a survey found could not be told');
    });
    for (const next of await followersOf(store, survey)) await queue.send('survey', { survey: next });
  };
}
