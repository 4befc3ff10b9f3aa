import type { SurveyScheduleInput } from '@pragmatica/contract';
import { nextRun, plainChanges, scheduleProblem, scheduleWords } from '@pragmatica/core';
import { ServiceError, errorAt } from '../../errors.js';
import { hostsOf } from '../../storage/hosts.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import {
  removeSchedule,
  saveSchedule,
  schedulesOf,
  type SurveySchedule,
} from '../../storage/survey-schedules.js';
import { audit } from '../../storage/trail.js';
import { say } from '../../texts/say.js';
import { SURVEY_TEXTS } from '../../texts/survey.js';
import { SCHEDULE_PROBLEMS } from '../schedule-problems.js';
import { findSite, withSiteLock } from '../site-lock.js';
import type { Acting } from '../use-case.js';

/** When surveys of a site's hosts begin by themselves. @throws ServiceError 404 */
export async function listSchedules(store: Store, key: string) {
  const rows = await schedulesOf(store, await findSite(store, key));
  return rows.map(({ host, cron, options, nextAt, setBy, setAt }) => ({
    host,
    cron,
    words: scheduleWords(cron),
    nextAt: nextAt?.toISOString() ?? null,
    ...options,
    by: setBy,
    at: setAt.toISOString(),
  }));
}

/** Lets surveys of a host begin by themselves. @throws ServiceError 404, 422 */
export async function setSchedule(
  key: string,
  host: string,
  { cron: written, ...options }: Required<SurveyScheduleInput>,
  { store, actor }: Acting,
): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const hosts = await hostsOf(transaction, site);
    if (!hosts.some((one) => one.host === host))
      throw new ServiceError('no-such-host', {
        site: key,
        host,
        known: hosts.map((one) => one.host).join(', '),
      });
    const cron = written.trim().replace(/\s+/g, ' ');
    const now = new Date();
    const problem = scheduleProblem(cron, site.timeZone, now);
    if (problem) throw errorAt('/cron', SCHEDULE_PROBLEMS[problem], { cron });
    const nextAt = nextRun(cron, site.timeZone, now) ?? null;
    const before = saidOf(await scheduleOf(transaction, site, host));
    await saveSchedule(transaction, site, { host, cron, zone: site.timeZone, options, nextAt, setBy: actor });
    const said = (): string => say(SURVEY_TEXTS.scheduled, { host, when: scheduleWords(cron) });
    const changes = plainChanges('schedule', before, saidOf({ host, cron }));
    audit(transaction, site, actor, 'survey.schedule', said, changes);
    await transaction.flush();
  });
}

/** @throws ServiceError 404 */
export async function endSchedule(key: string, host: string, { store, actor }: Acting): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const before = saidOf(await scheduleOf(transaction, site, host));
    if (!(await removeSchedule(transaction, site, host))) throw new ServiceError('no-schedule', { host });
    const changes = plainChanges('schedule', before, {});
    audit(
      transaction,
      site,
      actor,
      'survey.schedule',
      () => say(SURVEY_TEXTS.unscheduled, { host }),
      changes,
    );
    await transaction.flush();
  });
}

/** The plan of a host; undefined where there is none. */
async function scheduleOf(store: Store, site: Site, host: string): Promise<SurveySchedule | undefined> {
  return (await schedulesOf(store, site)).find((one) => one.host === host);
}

/** What the trail keeps of a plan. */
function saidOf(schedule: Pick<SurveySchedule, 'host' | 'cron'> | undefined): Record<string, object> {
  return schedule ? { [schedule.host]: { when: scheduleWords(schedule.cron) } } : {};
}
