import { answerWords } from '@pragmatica/core';
import type { SeenLoad } from '../../api/visits';
import { VISITS } from '../../texts/visits';
import { cn } from '../../ui/cn';
import { Section } from './section';
import { whoName } from './owner-name';

type Report = NonNullable<NonNullable<SeenLoad['judged']>['reports']>[number];

interface ReportListProps {
  readonly reports: readonly Report[];
  readonly colours: ReadonlyMap<string, string>;
}

/** What was reported to whom in a page load, field by field. */
export function ReportList({ reports, colours }: ReportListProps) {
  if (reports.length === 0) return null;
  return (
    <Section title={VISITS.reports} lead={VISITS.reportsLead}>
      <ol className="divide-y divide-line">
        {reports.map((report, index) => (
          <li key={index} className="py-2 first:pt-0 last:pb-0">
            <ReportEntry report={report} colour={colourOf(report, colours)} />
          </li>
        ))}
      </ol>
    </Section>
  );
}

function colourOf({ snippet }: Report, colours: ReportListProps['colours']): string | undefined {
  return typeof snippet === 'string' ? colours.get(snippet) : undefined;
}

function ReportEntry({ report, colour }: { report: Report; colour: string | undefined }) {
  const { snippet, name, host, url, by, fields } = report;
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-2 text-sm">
        <span
          className={cn('size-2 shrink-0 rounded-full', colour === undefined && 'bg-line-strong')}
          style={colour === undefined ? {} : { backgroundColor: colour }}
          aria-hidden
        />
        <span className="font-medium">{whoName({ snippet, name })}</span>
        <span className="font-mono text-xs break-all text-muted" title={url}>
          {host}
        </span>
        <span className="text-[13px] text-muted">{answerWords(by)}</span>
      </p>
      {fields.length > 0 && (
        <dl className="mt-1 ml-4 grid grid-cols-[minmax(0,10rem)_minmax(0,1fr)] gap-x-3 text-[13px]">
          {fields.map(({ name: field, value }, index) => (
            <div key={index} className="contents">
              <dt className="truncate text-muted" title={field} translate={field === '' ? 'yes' : 'no'}>
                {field === '' ? VISITS.plainText : field}
              </dt>
              <dd className="font-mono text-xs leading-5 break-all">{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </>
  );
}
