import type { VisitRoundDetail } from '@pragmatica/contract';
import { RUNGS, rungTitle } from '@pragmatica/core';
import { junitDocument, plainXml, type JunitCase } from '../report/junit-document.js';
import { say } from '../texts/say.js';
import { VISITS } from '../texts/visits.js';

/** A round as a JUnit report: a suite for each snippet; in it a case for each rung on each kind of device. */
export function roundJunit({ round, summary }: VisitRoundDetail): string {
  const suites = summary.snippets.map(({ snippet, devices, problems, intruder, leftOut }) => {
    const classname = `pragmatica.verify.${snippet}`;
    const cases = devices.flatMap(({ device, rungs }) =>
      RUNGS.filter((rung) => rungs[rung] !== 'none').map((rung): JunitCase => {
        const head = {
          '@name': `${rungTitle(rung)} (${device})`,
          '@classname': classname,
          '@time': '0' as const,
        };
        const state = rungs[rung];
        if (state === 'waiting' || state === 'not-reached')
          return { ...head, skipped: { '@message': state } };
        const problem = problems.find(
          (one) => one.rung === rung && one.at.some((at) => at.device === device),
        );
        if (!problem) return head;
        const { message, advice, id, evidence } = problem.cause;
        return {
          ...head,
          failure: {
            '@message': plainXml(message),
            '@type': id,
            '#text': plainXml([message, advice, ...evidence].join('\n')),
          },
        };
      }),
    );
    const stray = intruder
      ? [
          {
            '@name': VISITS.intruder.replace('{name}: ', ''),
            '@classname': classname,
            '@time': '0' as const,
            failure: {
              '@message': plainXml(intruder.message),
              '@type': 'intruder',
              '#text': intruder.message,
            },
          },
        ]
      : [];
    const none: JunitCase[] =
      cases.length + stray.length === 0
        ? [
            {
              '@name': snippet,
              '@classname': classname,
              '@time': '0',
              skipped: { '@message': leftOut ?? VISITS.leftOut },
            },
          ]
        : [];
    return [snippet, [...cases, ...stray, ...none]] as const;
  });
  const name = say(VISITS.junit, { host: round.host, release: round.release ?? 0 });
  return junitDocument(name, suites).trimEnd();
}
