import { DELIVERIES, deliveryTable, type Fit } from '@pragmatica/core';
import { Check, CircleSlash, Minus } from 'lucide-react';
import { DELIVERY } from '../../texts/delivery';
import { cn } from '../../ui/cn';

const SIGNS = { fully: Check, partly: Minus, not: CircleSlash } as const;
const COLOURS: Readonly<Record<Fit, string>> = {
  fully: 'text-good',
  partly: 'text-signal',
  not: 'text-danger',
};

/** The ways beside each other, in a section of their own. */
export function CompareWays() {
  return (
    <section
      aria-label={DELIVERY.compareTitle}
      className="rounded-xl border border-line bg-surface p-4 sm:p-5"
    >
      <h2 className="mb-3">{DELIVERY.compareTitle}</h2>
      <WaysTable />
    </section>
  );
}

/** What each way can and cannot do; core knows. */
export function WaysTable() {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={DELIVERY.compareTitle}>
      <table className="w-full min-w-4xl border-collapse text-left text-[13px]">
        <thead>
          <tr className="border-b border-line-strong align-bottom">
            <td />
            {DELIVERIES.map(({ key, name }) => (
              <th key={key} scope="col" className="px-2 py-1.5 font-semibold first-letter:uppercase">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr className="border-b border-line align-top">
            <th scope="row" className="py-1.5 pr-2 font-medium whitespace-nowrap">
              {DELIVERY.needs}
            </th>
            {DELIVERIES.map(({ key, needs }) => (
              <td key={key} className="px-2 py-1.5">
                {needs}
              </td>
            ))}
          </tr>
          {deliveryTable().map(({ aspect, label, cells }) => (
            <tr key={aspect} className="border-b border-line align-top last:border-0">
              <th scope="row" className="py-1.5 pr-2 font-medium">
                {label}
              </th>
              {cells.map(({ fit, words }, index) => {
                const Sign = SIGNS[fit];
                return (
                  <td key={DELIVERIES[index]!.key} className="px-2 py-1.5">
                    <Sign
                      role="img"
                      aria-label={DELIVERY.fits[fit]}
                      className={cn('mr-1 inline size-3.5 align-[-2px]', COLOURS[fit])}
                    />
                    {words}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
