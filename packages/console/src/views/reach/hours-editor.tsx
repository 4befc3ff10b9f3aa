import { WEEKDAYS, WEEKDAY_NAMES, hoursProblems, shortDay, type Hours } from '@pragmatica/core';
import { Plus, X } from 'lucide-react';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Field, inputStyle } from '../../ui/field';
import { SpanList } from './span-list';
import { WeekStrip } from './week-strip';
import { REACH } from '../../texts/reach';
import { say } from '../../texts/say';

interface HoursEditorProps {
  hours: Hours;
  timeZone: string;
  onChange: (hours: Hours) => void;
}

/** Opening hours: the week, days that differ, first and last day; and what comes of them. */
export function HoursEditor({ hours, timeZone, onChange }: HoursEditorProps) {
  const { weekly, closed = [], exceptions = [], first, last } = hours;
  const set = (change: { [K in keyof Hours]: Hours[K] | undefined }): void =>
    onChange(
      Object.fromEntries(
        Object.entries({ ...hours, ...change }).filter(([, value]: [string, unknown]) => value !== undefined),
      ),
    );
  const problems = hoursProblems(hours);
  return (
    <div className="space-y-4 rounded-lg border border-line bg-paper/60 p-3">
      <div className="space-y-1.5">
        {WEEKDAYS.map((day) => (
          <div
            key={day}
            className="grid grid-cols-[2.5rem_minmax(0,1fr)] items-center sm:grid-cols-[5.5rem_minmax(0,1fr)] gap-2"
          >
            <span className="text-sm">
              <span className="sm:hidden" aria-hidden>
                {shortDay(day)}
              </span>
              <span className="max-sm:sr-only">{WEEKDAY_NAMES[day]}</span>
            </span>
            <SpanList
              label={WEEKDAY_NAMES[day]}
              spans={weekly?.[day] ?? []}
              onChange={(spans) => set({ weekly: { ...weekly, [day]: spans } })}
            />
          </div>
        ))}
        <Button
          size="small"
          onClick={() => {
            const monday = weekly?.mon ?? [];
            set({ weekly: { ...weekly, tue: monday, wed: monday, thu: monday, fri: monday } });
          }}
        >
          {REACH.mondaySHours}
        </Button>
      </div>
      <div className="grid gap-3 sm:grid-cols-3">
        <Field
          label={REACH.closedEveryYear}
          placeholder="12-25, 01-01"
          hint={REACH.monthDay}
          defaultValue={closed.join(', ')}
          onChange={(event) => {
            const days = event.target.value.split(/[\s,]+/).filter(Boolean);
            set({ closed: days.length > 0 ? days : undefined });
          }}
        />
        <Field
          label={REACH.firstDay}
          type="date"
          value={first ?? ''}
          onChange={(event) => set({ first: event.target.value || undefined })}
        />
        <Field
          label={REACH.lastDay}
          type="date"
          value={last ?? ''}
          onChange={(event) => set({ last: event.target.value || undefined })}
        />
      </div>
      <div className="space-y-1.5">
        <p className="text-sm font-medium">{REACH.otherHoursSingle}</p>
        {exceptions.map((exception, index) => {
          const replace = (change: Partial<typeof exception>): void =>
            set({ exceptions: exceptions.map((old, i) => (i === index ? { ...old, ...change } : old)) });
          return (
            <div key={index} className="flex flex-wrap items-center gap-2">
              <input
                type="date"
                required
                aria-label={REACH.singleDay}
                className={cn(inputStyle, 'h-8 w-40 py-1')}
                value={exception.date}
                onChange={(event) => replace({ date: event.target.value })}
              />
              <SpanList
                label={exception.date || REACH.thatDay}
                spans={exception.spans}
                onChange={(spans) => replace({ spans })}
              />
              <Button
                look="quiet"
                size="small"
                aria-label={say(REACH.takeDayOut, { date: exception.date })}
                onClick={() => set({ exceptions: exceptions.filter((_, i) => i !== index) })}
              >
                <X className="size-3.5" aria-hidden /> {REACH.takeDayAway}
              </Button>
            </div>
          );
        })}
        <Button
          size="small"
          onClick={() => set({ exceptions: [...exceptions, { date: tomorrow(), spans: [] }] })}
        >
          <Plus className="size-3.5" aria-hidden /> {REACH.dayOtherHours}
        </Button>
      </div>
      {problems.map(({ path, message }) => (
        <p key={path.join('/')} className="text-[13px] text-danger">
          {message}
        </p>
      ))}
      {problems.length === 0 && <WeekStrip hours={hours} timeZone={timeZone} />}
    </div>
  );
}

function tomorrow(): string {
  return new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
}
