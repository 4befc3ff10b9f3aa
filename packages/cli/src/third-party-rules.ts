import type { WatchResource } from '@pragmatica/contract';
import { THIRD_PARTIES, type ThirdParties } from '@pragmatica/core';
import { CliError } from './errors.js';
import { say } from './texts/say.js';
import { WATCH } from './texts/watch.js';

type HostAnswer = WatchResource['hostAnswers'][number];
/** What somebody wants a host to get; null for no rule of its own. */
export type NamedAnswer = readonly [host: string, answer: ThirdParties | null];

/** Reads `HOST=ANSWER`. @throws CliError for what is not HOST=ANSWER */
export function hostAnswer(written: string): NamedAnswer {
  const [host = '', typed = ''] = written.split('=', 2).map((part) => part.trim().toLowerCase());
  const answer = THIRD_PARTIES.find((one) => one === typed);
  if (host === '' || (answer === undefined && typed !== 'usual'))
    throw new CliError(say(WATCH.notAnswer, { written, known: [...THIRD_PARTIES, 'usual'] }));
  return [host, answer ?? null];
}

/** The rules for hosts, with those that somebody names instead. */
export function withAnswers(former: readonly HostAnswer[], named: readonly NamedAnswer[]): HostAnswer[] {
  const answers = new Map<string, ThirdParties | null>(former.map(({ host, answer }) => [host, answer]));
  for (const [host, answer] of named) answers.set(host, answer);
  return [...answers].flatMap(([host, answer]) => (answer === null ? [] : [{ host, answer }]));
}

const ANSWERS: Readonly<Record<ThirdParties, string>> = {
  real: WATCH.answerReal,
  'stand-ins': WATCH['answerStand-ins'],
  blocked: WATCH.answerBlocked,
};

/** What other hosts get, a line for each that is named. */
export function answersWords({
  thirdParties,
  hostAnswers,
}: Pick<WatchResource, 'thirdParties' | 'hostAnswers'>): string {
  return [
    ANSWERS[thirdParties],
    ...hostAnswers.map(({ host, answer }) => say(WATCH.hostAnswer, { host, what: ANSWERS[answer] })),
  ].join('\n                 ');
}
