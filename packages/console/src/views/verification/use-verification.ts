import type { VerificationEvent } from '@pragmatica/contract';
import { useCallback } from 'react';
import { api } from '../../api/client';
import { VERIFICATION } from '../../texts/verification';
import { useStream, type StreamState } from '../../ui/use-stream';

export type PageEvent = Extract<VerificationEvent, { type: 'page' }>;
type StartEvent = Extract<VerificationEvent, { type: 'start' }>;

interface Seen {
  readonly start: StartEvent | undefined;
  readonly pages: readonly PageEvent[];
}

export interface Verification extends Seen, Pick<StreamState<Seen>, 'state' | 'error'> {}

const OPTIONS = {
  initial: { start: undefined, pages: [] } as Seen,
  fold: (seen: Seen, event: VerificationEvent): Seen => {
    if (event.type === 'start') return { ...seen, start: event };
    return event.type === 'page' ? { ...seen, pages: [...seen.pages, event] } : seen;
  },
  isLast: ({ type }: VerificationEvent) => type !== 'start' && type !== 'page',
  brokeOff: VERIFICATION.serviceBrokeOff,
};

/** Runs a verification and collects its events as they come. Leaving the view ends it. */
export function useVerification(site: string): {
  verification: Verification;
  /** @param host - of the site; the first live one when left out */
  run: (host?: string) => void;
  stop: () => void;
} {
  const { state, value, error, run, stop } = useStream(OPTIONS);
  const begin = useCallback(
    (host?: string) =>
      void run((signal) => api.stream('verify', { params: { site }, body: { host } }, signal)),
    [site, run],
  );
  return { verification: { state, error, ...value }, run: begin, stop };
}
