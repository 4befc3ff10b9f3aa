import { WEEKDAY_NAMES } from '@pragmatica/core';
import { SURVEY } from '../../texts/survey';
import { Field } from '../../ui/field';
import { SelectField } from '../../ui/select-field';
import type { Rhythm, ScheduleChoice } from './schedule-rhythm';

const RHYTHMS = [
  ['daily', SURVEY.everyDay],
  ['weekly', SURVEY.everyWeek],
  ['monthly', SURVEY.everyMonth],
] as const satisfies readonly (readonly [Rhythm, string])[];
const WEEKDAYS = Object.values(WEEKDAY_NAMES).map((name, index) => [String(index + 1), name] as const);
/** No day that a month may lack. */
const LAST_DAY = 28;
const DAYS = Array.from({ length: LAST_DAY }, (_, i) => [String(i + 1), String(i + 1)] as const);
const NEVER = 'never';
const OTHER = 'other';

interface RhythmFieldsProps {
  readonly label: string;
  readonly choice: ScheduleChoice;
  /** What not planning anything is called; left out where something must be planned. */
  readonly never?: string;
  /** What is planned now, where it is none of the choices. */
  readonly other?: string | undefined;
  /** @defaultValue true */
  readonly isPlanned?: boolean;
  readonly error?: string | undefined;
  /** @param choice - null for never */
  readonly onChange: (choice: ScheduleChoice | null) => void;
}

/** How often something begins by itself, and when. */
export function RhythmFields(props: RhythmFieldsProps) {
  const { label, choice, never, other, isPlanned = true, error, onChange } = props;
  const options = [
    ...(never === undefined ? [] : [[NEVER, never] as const]),
    ...RHYTHMS,
    ...(other === undefined ? [] : [[OTHER, other] as const]),
  ];
  const isChosen = isPlanned && other === undefined;
  return (
    <>
      <SelectField
        label={label}
        value={!isPlanned ? NEVER : other === undefined ? choice.rhythm : OTHER}
        options={options}
        onChange={(value) => {
          if (value === NEVER) onChange(null);
          else if (value !== OTHER) onChange({ ...choice, rhythm: value as Rhythm });
        }}
      />
      {isChosen && choice.rhythm === 'weekly' && (
        <SelectField
          label={SURVEY.onWeekday}
          value={choice.weekday}
          options={WEEKDAYS}
          onChange={(weekday) => onChange({ ...choice, weekday })}
        />
      )}
      {isChosen && choice.rhythm === 'monthly' && (
        <SelectField
          label={SURVEY.onDay}
          value={choice.day}
          options={DAYS}
          onChange={(day) => onChange({ ...choice, day })}
        />
      )}
      {isChosen && (
        <Field
          label={SURVEY.atTime}
          type="time"
          required
          value={choice.time}
          error={error}
          onChange={(event) => onChange({ ...choice, time: event.target.value })}
        />
      )}
    </>
  );
}
