import type { CoverageResource } from '@pragmatica/contract';
import { coverageCsv } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { ChevronRight, CircleCheck, Download } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { hasFailed } from '../../api/failed';
import { coverageQuery } from '../../api/surveys';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Button } from '../../ui/button';
import { saveFile } from '../../ui/save-file';
import { cn } from '../../ui/cn';
import { Empty, Failure, Loading } from '../../ui/states';
import { CELL_LOOKS, Mark } from './coverage-mark';
import { CoveragePages } from './coverage-pages';
import { cellState } from './coverage-state';

type Row = CoverageResource['rows'][number];
type Snippet = CoverageResource['snippets'][number];

/** Sections × snippets as a picture: what should be there, and what is. A row opens into its pages. */
export function CoverageView() {
  const site = useSiteKey();
  const coverage = useQuery(coverageQuery(site));
  if (coverage.isPending) return <Loading />;
  if (hasFailed(coverage)) return <Failure error={coverage.error} onRetry={() => void coverage.refetch()} />;
  const { rows, snippets } = coverage.data;
  if (snippets.length === 0) return <Empty title={SURVEY.coverageNoneTitle}>{SURVEY.coverageNone}</Empty>;
  return <Grid site={site} rows={rows} snippets={snippets} />;
}

function Grid({ site, rows, snippets }: { site: string; rows: Row[]; snippets: Snippet[] }) {
  const [open, setOpen] = useState<string>();
  const lacking = snippets.filter(({ present, expected }) => present < expected);
  return (
    <section className="space-y-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <p className="text-sm text-muted">{SURVEY.coverageIntro}</p>
        <Button
          size="small"
          onClick={() => saveFile(`coverage-${site}.csv`, coverageCsv({ rows, snippets }), 'text/csv')}
        >
          <Download className="size-3.5" aria-hidden /> {SURVEY.csv}
        </Button>
      </div>
      {lacking.length === 0 ? (
        <p className="flex gap-2 text-sm text-good">
          <CircleCheck className="size-5 shrink-0" aria-hidden /> {SURVEY.allCovered}
        </p>
      ) : (
        <div className="rounded-lg border border-danger/40 bg-danger-soft p-3 text-sm">
          <p className="font-medium text-danger">{say(SURVEY.gaps, { count: lacking.length })}</p>
          <ul className="mt-1 space-y-0.5">
            {lacking.map((one) => (
              <li key={one.snippet}>
                <Link className="font-medium underline" to={`/sites/${site}/snippets/${one.snippet}`}>
                  {one.name}
                </Link>{' '}
                {one.words}
              </li>
            ))}
          </ul>
        </div>
      )}
      <div
        className="overflow-x-auto rounded-xl border border-line bg-surface"
        tabIndex={0}
        role="group"
        aria-label={SURVEY.tabCoverage}
      >
        <table className="w-full text-sm">
          <thead>
            <tr className="border-b border-line align-bottom">
              <th scope="col" className="px-3 py-2 text-left font-medium">
                {SURVEY.section}
              </th>
              {snippets.map(({ snippet, name }) => (
                <th key={snippet} scope="col" className="h-32 w-10 p-1 align-bottom font-medium">
                  <span className="mx-auto block max-h-30 truncate text-left text-[13px] [writing-mode:vertical-rl] rotate-180">
                    {name}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          {rows.map((row) => {
            const key = `${row.section} ${row.type}`;
            return (
              <tbody key={key} className="border-b border-line last:border-0">
                <SectionRow
                  row={row}
                  snippets={snippets}
                  isOpen={open === key}
                  onToggle={() => setOpen(open === key ? undefined : key)}
                />
                {open === key && (
                  <tr>
                    <td colSpan={snippets.length + 1} className="p-0">
                      <CoveragePages site={site} section={row.section} type={row.type} snippets={snippets} />
                    </td>
                  </tr>
                )}
              </tbody>
            );
          })}
        </table>
      </div>
      <Legend />
    </section>
  );
}

interface SectionRowProps {
  readonly row: Row;
  readonly snippets: readonly Snippet[];
  readonly isOpen: boolean;
  readonly onToggle: () => void;
}

function SectionRow({ row, snippets, isOpen, onToggle }: SectionRowProps) {
  return (
    <tr className="hover:bg-paper">
      <th scope="row" className="p-0 text-left font-normal">
        <button
          type="button"
          aria-expanded={isOpen}
          onClick={onToggle}
          className="flex w-full items-center gap-2 px-3 py-2 text-left"
        >
          <ChevronRight
            className={cn('size-4 shrink-0 text-muted transition-transform', isOpen && 'rotate-90')}
            aria-hidden
          />
          <span className="font-mono text-xs">{row.section}</span>
          <span className="text-[13px] whitespace-nowrap text-muted">
            {row.type === 'other' ? '' : `${SURVEY.pageTypes[row.type]} · `}
            {say(SURVEY.pages, { count: row.pages })}
          </span>
        </button>
      </th>
      {snippets.map(({ snippet, name }) => {
        const cell = row.cells[snippet];
        return (
          <td key={snippet} className="p-1 text-center">
            <Mark state={cellState(cell)} label={cellWords(name, row.section, cell)}>
              {cell && cell.present < cell.expected ? `${cell.present}/${cell.expected}` : undefined}
            </Mark>
          </td>
        );
      })}
    </tr>
  );
}

function cellWords(snippet: string, section: string, cell: Row['cells'][string] | undefined): string {
  if (!cell) return say(SURVEY.cellNone, { snippet, section });
  return cell.present === cell.expected
    ? say(SURVEY.cellAll, { snippet, section, expected: cell.expected })
    : say(SURVEY.cellSome, { snippet, section, ...cell });
}

function Legend() {
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1 text-[13px] text-muted">
      {(
        [
          ['all', SURVEY.legendAll],
          ['some', SURVEY.legendSome],
          ['missing', SURVEY.legendMissing],
          ['none', SURVEY.legendNone],
        ] as const
      ).map(([state, label]) => (
        <li key={state} className="flex items-center gap-1.5">
          <span className={cn('size-3.5 rounded', CELL_LOOKS[state])} aria-hidden /> {label}
        </li>
      ))}
    </ul>
  );
}
