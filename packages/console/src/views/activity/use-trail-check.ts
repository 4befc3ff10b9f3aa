import type { TrailCheckEvent } from '@pragmatica/contract';
import { useCallback } from 'react';
import { checkTrail } from '../../api/activity';
import { ACTIVITY } from '../../texts/activity';
import { useStream } from '../../ui/use-stream';

type Progress = Extract<TrailCheckEvent, { type: 'progress' }>;
export type CheckedTrail = Extract<TrailCheckEvent, { type: 'done' }>;

interface Seen {
  readonly progress?: Progress;
  readonly checked?: CheckedTrail;
}

const OPTIONS = {
  initial: {} as Seen,
  fold: (_: Seen, event: TrailCheckEvent): Seen =>
    event.type === 'progress' ? { progress: event } : { checked: event },
  isLast: ({ type }: TrailCheckEvent) => type === 'done',
  brokeOff: ACTIVITY.brokeOff,
};

/** Reads the trail as long as somebody wants to know. Leaving the view ends it. */
export function useTrailCheck() {
  const { state, value, error, run, stop } = useStream(OPTIONS);
  const begin = useCallback(async (head: string) => run((signal) => checkTrail(head, signal)), [run]);
  return { isRunning: state === 'running', ...value, error, run: begin, stop };
}
