import type { VerificationEvent } from '@pragmatica/contract';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api } from '../../api/client';
import { VERIFICATION } from '../../texts/verification';

export type PageEvent = Extract<VerificationEvent, { type: 'page' }>;
type StartEvent = Extract<VerificationEvent, { type: 'start' }>;

export interface Verification {
  readonly state: 'idle' | 'running' | 'done' | 'stopped' | 'failed';
  readonly start: StartEvent | undefined;
  readonly pages: readonly PageEvent[];
  readonly error: Error | undefined;
}

const BROKEN_OFF = VERIFICATION.serviceBrokeOff;

const IDLE: Verification = { state: 'idle', start: undefined, pages: [], error: undefined };

/** Runs a verification and collects its events as they come. Leaving the view ends it. */
export function useVerification(site: string): {
  verification: Verification;
  /** @param host - of the site; the first live one when left out */
  run: (host?: string) => void;
  stop: () => void;
} {
  const [verification, setVerification] = useState(IDLE);
  const abort = useRef<AbortController>(undefined);
  useEffect(() => () => abort.current?.abort(), []);

  const run = useCallback(
    (host?: string) => {
      const controller = new AbortController();
      abort.current = controller;
      const change = (with_: (current: Verification) => Partial<Verification>): void =>
        setVerification((current) => ({ ...current, ...with_(current) }));
      setVerification({ ...IDLE, state: 'running' });
      void (async () => {
        try {
          for await (const event of api.stream(
            'verify',
            { params: { site }, body: { host } },
            controller.signal,
          )) {
            if (event.type === 'start') change(() => ({ start: event }));
            else if (event.type === 'page') change(({ pages }) => ({ pages: [...pages, event] }));
            else change(() => ({ state: 'done' }));
          }
          change(({ state }) => (state === 'done' ? {} : { state: 'failed', error: new Error(BROKEN_OFF) }));
        } catch (error) {
          if (controller.signal.aborted) change(() => ({ state: 'stopped' }));
          else
            change(() => ({
              state: 'failed',
              error: error instanceof Error ? error : new Error(String(error)),
            }));
        }
      })();
    },
    [site],
  );

  return { verification, run, stop: () => abort.current?.abort() };
}
