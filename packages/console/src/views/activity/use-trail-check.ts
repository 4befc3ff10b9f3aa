import type { TrailCheckEvent } from '@pragmatica/contract';
import { useCallback, useEffect, useRef, useState } from 'react';
import { checkTrail } from '../../api/activity';
import { ACTIVITY } from '../../texts/activity';

type Progress = Extract<TrailCheckEvent, { type: 'progress' }>;
export type CheckedTrail = Extract<TrailCheckEvent, { type: 'done' }>;

interface State {
  readonly isRunning: boolean;
  readonly progress?: Progress;
  readonly checked?: CheckedTrail;
  readonly error?: Error;
}

/** Reads the trail as long as somebody wants to know. Leaving the view ends it. */
export function useTrailCheck() {
  const [state, setState] = useState<State>({ isRunning: false });
  const abort = useRef<AbortController>(undefined);
  useEffect(() => () => abort.current?.abort(), []);
  const run = useCallback(async (head: string) => {
    const controller = new AbortController();
    abort.current = controller;
    setState({ isRunning: true });
    try {
      for await (const event of checkTrail(head, controller.signal)) {
        if (event.type === 'progress') setState({ isRunning: true, progress: event });
        else {
          setState({ isRunning: false, checked: event });
          return;
        }
      }
      setState({ isRunning: false, error: new Error(ACTIVITY.brokeOff) });
    } catch (error) {
      if (controller.signal.aborted) setState({ isRunning: false });
      else setState({ isRunning: false, error: error instanceof Error ? error : new Error(String(error)) });
    }
  }, []);
  return { ...state, run, stop: () => abort.current?.abort() };
}
