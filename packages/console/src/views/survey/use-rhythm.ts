import { useState } from 'react';
import { fromCron, toCron, USUAL, type ScheduleChoice } from './schedule-rhythm';

/** What is chosen of when something begins by itself. */
export interface ChosenRhythm {
  readonly isPlanned: boolean;
  readonly choice: ScheduleChoice;
  /** An expression that is none of the choices stays as it is until another one is chosen. */
  readonly isOther: boolean;
  /** As a crontab has it, also where it is not planned. */
  readonly cron: string;
  /** @param choice - null for never */
  readonly change: (choice: ScheduleChoice | null) => void;
}

/** @param cron - as it is now; null where nothing was ever planned */
export function useRhythm(cron: string | null, wasPlanned: boolean): ChosenRhythm {
  const written = cron === null ? undefined : fromCron(cron);
  const [isPlanned, setPlanned] = useState(wasPlanned);
  const [choice, setChoice] = useState(written ?? { ...USUAL, rhythm: 'daily' as const });
  const [isOther, setOther] = useState(cron !== null && written === undefined);
  return {
    ...{ isPlanned, choice, isOther },
    cron: isOther && cron !== null ? cron : toCron(choice),
    change: (next) => {
      setOther(false);
      setPlanned(next !== null);
      if (next) setChoice(next);
    },
  };
}
