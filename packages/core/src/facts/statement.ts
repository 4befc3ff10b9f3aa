import type { NamedPlacement } from '../insert/index.js';

interface Reading {
  readonly placement: NamedPlacement;
  readonly pattern: RegExp;
}

const HEAD = String.raw`(?:<\s*)?head(?:er)?(?:\s*>)?`;
const BODY = String.raw`(?:<\s*)?body(?:\s*>)?`;

/** How providers say where their code goes. The first that fits holds. */
const READINGS: readonly Reading[] = [
  {
    placement: 'head-start',
    pattern: new RegExp(
      String.raw`(?:as (?:high|far up|early|near the top)|at the (?:very )?(?:top|beginning|start)|first (?:script|element|thing|tag)|(?:immediately|directly|right|just)? ?after the (?:opening|start)[^.]{0,20}) ?[^.]{0,30}${HEAD}`,
      'i',
    ),
  },
  {
    placement: 'body-start',
    pattern: new RegExp(
      String.raw`(?:after|following|below|behind|at the (?:top|start|beginning) of)[^.]{0,40}${BODY}`,
      'i',
    ),
  },
  {
    placement: 'head-end',
    pattern: new RegExp(
      String.raw`(?:before|above|in front of|at the (?:end|bottom) of)[^.]{0,40}(?:clos\w+|end\w*|<\s*/)?[^.]{0,12}(?:</?\s*)?head`,
      'i',
    ),
  },
  {
    placement: 'body-end',
    pattern: new RegExp(
      String.raw`(?:before|above|in front of|at the (?:end|bottom|foot) of|at the end)[^.]{0,40}(?:(?:</?\s*)?body|page|footer)|\bfooter\b`,
      'i',
    ),
  },
  {
    placement: 'head-end',
    pattern: new RegExp(String.raw`(?:in|into|inside|within|between)[^.]{0,30}${HEAD}`, 'i'),
  },
];

/** The placement that a provider's sentence means; undefined where it says none. */
export function placementOfStatement(statement: string): NamedPlacement | undefined {
  const text = statement.replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/\s+/g, ' ');
  return READINGS.find(({ pattern }) => pattern.test(text))?.placement;
}
