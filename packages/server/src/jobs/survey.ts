import { surveyById } from '../storage/surveys.js';
import type { SurveyTools } from '../survey/tools.js';
import { walkSurvey } from '../survey/walk-survey.js';
import type { JobQueue, QueuedJobs } from './queue.js';

/** Workers that share one survey, beside the one that opened it. */
const MORE_WORKERS = 1;

/** Works on surveys that are in the queue. What a worker gives back when it stops goes there again. */
export function surveyJob(tools: SurveyTools, queue: JobQueue, stop: AbortSignal) {
  return async ({ survey: id }: QueuedJobs['survey']): Promise<void> => {
    try {
      await walkSurvey(id, tools, stop, async ({ options }) => {
        if (options.delayMs > 0 || options.concurrency < 2) return;
        for (let i = 0; i < MORE_WORKERS; i++) await queue.send('survey', { survey: id });
      });
    } catch (error) {
      // It is taken up again when nobody has worked on it for a while.
      tools.log.warn({ err: error, survey: id }, 'work on a survey was broken off');
    }
    if (!stop.aborted) return;
    const survey = await surveyById(tools.store.fork(), id);
    if (survey?.state === 'running' || survey?.state === 'waiting')
      await queue.send('survey', { survey: id });
  };
}
