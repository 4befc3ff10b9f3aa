import { answeredWords } from '@pragmatica/core';
import { Link } from 'react-router';
import type { RoundDetail } from '../../api/visits';
import { VISITS } from '../../texts/visits';
import { Section } from './section';
import { whoName } from './owner-name';

type Reports = RoundDetail['summary']['reports'][number];

/** What each snippet told which host, and who answered. */
export function ReportsSection({ site, reports }: { site: string; reports: readonly Reports[] }) {
  if (reports.length === 0) return null;
  const isCounted = reports.some(({ by }) => (by.host ?? 0) > 0);
  return (
    <Section title={VISITS.reports} lead={VISITS.reportsLead}>
      <div className="-mx-4 overflow-x-auto px-4">
        <table className="w-full text-sm">
          <thead>
            <tr className="border-b border-line text-left text-[13px] text-muted">
              <th className="py-1 pr-3 font-medium">{VISITS.who}</th>
              <th className="pr-3 font-medium">{VISITS.told}</th>
              <th className="font-medium">{VISITS.reportCount}</th>
            </tr>
          </thead>
          <tbody>
            {reports.map(({ snippet, name, host, by }) => (
              <tr key={`${String(snippet)} ${host}`} className="border-b border-line align-top last:border-0">
                <th scope="row" className="py-1.5 pr-3 text-left font-medium">
                  {whoName({ snippet, name })}
                </th>
                <td className="py-1.5 pr-3 font-mono text-xs break-all text-muted">{host}</td>
                <td className="py-1.5">{answeredWords(by)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {isCounted && (
        <p className="mt-3 text-[13px] text-muted">
          {VISITS.counted}{' '}
          <Link to={`/sites/${site}/check/watch`} className="text-primary underline">
            {VISITS.dontCount}
          </Link>
        </p>
      )}
    </Section>
  );
}
