import { DEVICES, RUNGS, deviceName, rungTitle, type RungState } from '@pragmatica/core';
import { Check, Minus, X } from 'lucide-react';
import { Fragment } from 'react';
import { Link } from 'react-router';
import type { RoundDetail } from '../../api/visits';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { cn } from '../../ui/cn';
import { Section } from './section';

type Snippets = RoundDetail['summary']['snippets'];

/** Snippets × devices × rungs: how far each came. */
export function RungsTable({ site, snippets }: { site: string; snippets: Snippets }) {
  const shown = snippets.filter(({ devices }) => devices.length > 0);
  const absent = snippets.filter(({ devices }) => devices.length === 0);
  return (
    <Section title={VISITS.rungs}>
      <div className="-mx-4 overflow-x-auto px-4">
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-[13px] text-muted">
              <th className="py-1 pr-3 font-medium">{VISITS.snippet}</th>
              <th className="pr-3 font-medium">{VISITS.device}</th>
              {RUNGS.map((rung) => (
                <th key={rung} className="px-2 text-center font-medium">
                  {rungTitle(rung)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map(({ snippet, name, devices }) => (
              <Fragment key={snippet}>
                {DEVICES.toReversed()
                  .flatMap((device) => devices.filter((one) => one.device === device))
                  .map(({ device, rungs }, index) => (
                    <tr key={device} className={cn(index === 0 && 'border-t border-line')}>
                      <th scope="row" className="py-1.5 pr-3 text-left font-medium">
                        {index === 0 && (
                          <Link to={`/sites/${site}/snippets/${snippet}`} className="hover:underline">
                            {name}
                          </Link>
                        )}
                      </th>
                      <td className="pr-3 text-muted">{deviceName(device)}</td>
                      {RUNGS.map((rung) => (
                        <td key={rung} className="px-2 text-center">
                          <Mark state={rungs[rung]} />
                        </td>
                      ))}
                    </tr>
                  ))}
              </Fragment>
            ))}
          </tbody>
        </table>
      </div>
      {absent.length > 0 && (
        <ul className="mt-3 space-y-0.5 border-t border-line pt-3 text-[13px] text-muted">
          {absent.map(({ snippet, name, leftOut }) => (
            <li key={snippet}>
              <span className="font-medium text-ink">{name}</span>{' '}
              {say(VISITS.onNone, { why: leftOut ?? '' })}
            </li>
          ))}
        </ul>
      )}
    </Section>
  );
}

const LABELS: Record<RungState, string> = {
  reached: VISITS.reached,
  failed: VISITS.failedRung,
  'not-reached': VISITS.notReached,
  none: VISITS.none,
  waiting: VISITS.waits,
};

/** One rung: a sign that differs in shape, not in colour alone. */
export function Mark({ state }: { state: RungState }) {
  const label = LABELS[state];
  if (state === 'reached')
    return <Check className="mx-auto inline size-4.5 text-good" role="img" aria-label={label} />;
  if (state === 'failed')
    return (
      <span className="inline-flex size-5.5 items-center justify-center rounded-full bg-danger-soft">
        <X className="size-4 text-danger" role="img" aria-label={label} />
      </span>
    );
  if (state === 'waiting') return <span className="text-xs text-signal">{VISITS.waits}</span>;
  if (state === 'none')
    return <Minus className="mx-auto inline size-4 text-line-strong" role="img" aria-label={label} />;
  return <span className="inline-block size-1.5 rounded-full bg-line-strong" role="img" aria-label={label} />;
}
