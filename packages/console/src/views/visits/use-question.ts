import type { TroubleAnswerResource, WhyAnswerResource } from '@pragmatica/contract';
import type { Device } from '@pragmatica/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { askTrouble, askWhy } from '../../api/visits';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';

/** What somebody wants to know. */
export interface AskedQuestion {
  /** Empty for the page as a whole. */
  readonly snippet: string;
  readonly path: string;
  readonly device: Device;
  readonly consent: 'none' | 'all';
}

export interface Answering {
  readonly state: 'idle' | 'asking' | 'answered' | 'failed';
  /** What is going on, in words. */
  readonly progress: string;
  readonly why: WhyAnswerResource | undefined;
  readonly trouble: TroubleAnswerResource | undefined;
  /** Where the evidence is. */
  readonly seen: { readonly round: number; readonly visit?: number } | undefined;
  readonly error: Error | undefined;
}

const IDLE: Answering = {
  state: 'idle',
  progress: '',
  why: undefined,
  trouble: undefined,
  seen: undefined,
  error: undefined,
};

/** Asks, and gives the answer as it grows. Leaving the view calls the visit off. */
export function useQuestion(site: string): {
  readonly answering: Answering;
  readonly ask: (question: AskedQuestion) => void;
} {
  const [answering, setAnswering] = useState(IDLE);
  const abort = useRef<AbortController>(undefined);
  useEffect(() => () => abort.current?.abort(), []);
  const ask = useCallback(
    (question: AskedQuestion) => {
      abort.current?.abort();
      const controller = new AbortController();
      abort.current = controller;
      const change = (change_: Partial<Answering>): void => {
        if (!controller.signal.aborted) setAnswering((current) => ({ ...current, ...change_ }));
      };
      setAnswering({ ...IDLE, state: 'asking', progress: VISITS.asking });
      const run = question.snippet === '' ? askPage : askSnippet;
      run(site, question, controller.signal, change).catch((error: unknown) => {
        change({ state: 'failed', error: error instanceof Error ? error : new Error(String(error)) });
      });
    },
    [site],
  );
  return { answering, ask };
}

type Change = (change: Partial<Answering>) => void;

async function askSnippet(
  site: string,
  question: AskedQuestion,
  signal: AbortSignal,
  change: Change,
): Promise<void> {
  let isAnswered = false;
  for await (const event of askWhy(site, question, signal)) {
    if (event.type === 'visiting') change({ progress: VISITS.askingVisit });
    else {
      isAnswered = event.type === 'answer' || event.isFinal;
      change({
        why: event.answer,
        ...(event.type === 'answer' ? { seen: { round: event.round, visit: event.visit } } : {}),
        ...(isAnswered ? { state: 'answered' } : {}),
      });
    }
  }
  if (!isAnswered) throw new Error(VISITS.brokenOff);
}

async function askPage(
  site: string,
  { path, device }: AskedQuestion,
  signal: AbortSignal,
  change: Change,
): Promise<void> {
  let isAnswered = false;
  change({ progress: VISITS.askingVisit });
  for await (const event of askTrouble(site, { path, device }, signal)) {
    if (event.type === 'visit')
      change({ progress: say(VISITS.askingMore, { number: event.visit.number, title: event.visit.title }) });
    else if (event.type === 'answer') {
      isAnswered = true;
      change({ trouble: event.answer, seen: { round: event.round }, state: 'answered' });
    }
  }
  if (!isAnswered) throw new Error(VISITS.brokenOff);
}
