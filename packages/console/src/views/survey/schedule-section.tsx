import type { SurveyScheduleResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { CalendarClock } from 'lucide-react';
import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useEndSchedule, useSetSchedule } from '../../api/mutations';
import { siteQuery } from '../../api/queries';
import { schedulesQuery } from '../../api/surveys';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Button } from '../../ui/button';
import { FormDialog } from '../../ui/form-dialog';
import { SelectField } from '../../ui/select-field';
import { Time } from '../../ui/time';
import { RhythmFields } from './rhythm-fields';
import { fromCron, toCron, USUAL } from './schedule-rhythm';

/** When surveys begin by themselves, and the way to say so. */
export function ScheduleSection({ site }: { site: string }) {
  const schedules = useQuery(schedulesQuery(site)).data;
  const end = useEndSchedule(site);
  const [isOpen, setOpen] = useState(false);
  const [changed, setChanged] = useState<SurveyScheduleResource>();
  if (!schedules) return null;
  const change = (schedule?: SurveyScheduleResource): void => {
    setChanged(schedule);
    setOpen(true);
  };
  return (
    <section
      aria-label={SURVEY.schedule}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-xl border border-line bg-surface px-4 py-3 text-sm"
    >
      <CalendarClock className="size-4 shrink-0 text-muted" aria-hidden />
      {schedules.length === 0 && <p className="min-w-60 flex-1 text-muted">{SURVEY.scheduleNone}</p>}
      {schedules.length > 0 && (
        <ul className="min-w-60 flex-1 space-y-1">
          {schedules.map((schedule) => (
            <li key={schedule.host} className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <span>
                {say(SURVEY.scheduleLine, { host: schedule.host, when: schedule.words })}{' '}
                {schedule.nextAt !== null && (
                  <span className="text-muted">
                    {SURVEY.scheduleNext} <Time at={schedule.nextAt} />
                  </span>
                )}
              </span>
              <Button size="small" needs="edit" onClick={() => change(schedule)}>
                {SURVEY.scheduleChange}
              </Button>
              <Button
                size="small"
                look="quiet"
                isBusy={end.isPending}
                aria-label={say(SURVEY.scheduleStopOf, { host: schedule.host })}
                onClick={() => end.run(schedule.host)}
              >
                {SURVEY.scheduleStop}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {schedules.length === 0 && (
        <Button size="small" needs="edit" onClick={() => change()}>
          {SURVEY.schedulePlan}
        </Button>
      )}
      <ScheduleDialog
        key={`${changed?.host ?? ''} ${isOpen}`}
        site={site}
        schedule={changed}
        isOpen={isOpen}
        onOpenChange={setOpen}
      />
    </section>
  );
}

interface ScheduleDialogProps {
  readonly site: string;
  /** The one that is changed. */
  readonly schedule: SurveyScheduleResource | undefined;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

function ScheduleDialog({ site, schedule, isOpen, onOpenChange }: ScheduleDialogProps) {
  const details = useQuery(siteQuery(site)).data?.data;
  const hosts = details?.hosts ?? [];
  const set = useSetSchedule(site);
  const [chosenHost, setHost] = useState(schedule?.host);
  const [choice, setChoice] = useState(() => (schedule && fromCron(schedule.cron)) ?? USUAL);
  const host =
    chosenHost ?? (hosts.find(({ environment }) => environment === 'live') ?? hosts[0])?.host ?? '';
  const errors = fieldErrorsOf(set.error);
  return (
    <FormDialog
      title={SURVEY.scheduleTitle}
      description={say(SURVEY.scheduleText, { zone: details?.timeZone ?? '' })}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => {
        const options = schedule
          ? {
              side: schedule.side,
              limit: schedule.limit,
              ignoreRobots: schedule.ignoreRobots,
              concurrency: schedule.concurrency,
              delayMs: schedule.delayMs,
            }
          : {};
        set.run({ host, cron: toCron(choice), ...options }, () => onOpenChange(false));
      }}
      error={errors.isEmpty ? set.error : undefined}
      submit={SURVEY.scheduleSave}
      isBusy={set.isPending}
      leave={SURVEY.later}
    >
      {hosts.length > 1 && !schedule && (
        <SelectField
          label={SURVEY.host}
          value={host}
          options={hosts.map((one) => [one.host, `${one.host} (${one.environment})`] as const)}
          onChange={setHost}
        />
      )}
      <div className="grid gap-4 sm:grid-cols-3">
        <RhythmFields
          label={SURVEY.howOften}
          choice={choice}
          error={errors.at('/cron')}
          onChange={(next) => next && setChoice(next)}
        />
      </div>
    </FormDialog>
  );
}
