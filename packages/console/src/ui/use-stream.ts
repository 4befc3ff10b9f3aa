import { useCallback, useEffect, useRef, useState } from 'react';

/** How a stream of events stands. */
export interface StreamState<Value> {
  readonly state: 'idle' | 'running' | 'done' | 'stopped' | 'failed';
  /** What its events have come to so far. */
  readonly value: Value;
  readonly error: Error | undefined;
}

interface StreamOptions<Event, Value> {
  /** What there is before the first event. */
  readonly initial: Value;
  readonly fold: (value: Value, event: Event) => Value;
  /** Whether nothing comes after it. */
  readonly isLast: (event: Event) => boolean;
  /** What is said where it ends before that. */
  readonly brokeOff: string;
}

/**
 * Follows a stream of events to its end. Leaving the view ends it, and with it what the service does for it; one that begins ends
 * the one before.
 *
 * @param options - the same object each time
 */
export function useStream<Event, Value>(options: StreamOptions<Event, Value>) {
  const { initial } = options;
  const [stream, setStream] = useState<StreamState<Value>>({
    state: 'idle',
    value: initial,
    error: undefined,
  });
  const abort = useRef<AbortController>(undefined);
  useEffect(() => () => abort.current?.abort(), []);
  const run = useCallback(
    async (begin: (signal: AbortSignal) => AsyncIterable<Event>): Promise<void> => {
      abort.current?.abort();
      const { signal } = (abort.current = new AbortController());
      let value = options.initial;
      const tell = (state: StreamState<Value>['state'], error?: Error): void => {
        // Another one may have begun since.
        if (abort.current?.signal === signal) setStream({ state, value, error });
      };
      tell('running');
      try {
        for await (const event of begin(signal)) {
          value = options.fold(value, event);
          if (options.isLast(event)) {
            tell('done');
            return;
          }
          tell('running');
        }
        tell('failed', new Error(options.brokeOff));
      } catch (error) {
        if (signal.aborted) tell('stopped');
        else tell('failed', error instanceof Error ? error : new Error(String(error)));
      }
    },
    [options],
  );
  const stop = useCallback(() => abort.current?.abort(), []);
  return { ...stream, run, stop };
}
