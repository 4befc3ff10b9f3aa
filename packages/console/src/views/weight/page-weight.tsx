import { CircleAlert, CircleCheck } from 'lucide-react';
import { Link } from 'react-router';
import { say } from '../../texts/say';
import { WEIGHT } from '../../texts/weight';
import { cn } from '../../ui/cn';
import { Section } from '../visits/section';
import type { WeighedPage } from './stack';
import { kilobytes } from './weight-chart';

type Figures = WeighedPage['adds'];

interface PageWeightProps {
  readonly site: string;
  readonly page: WeighedPage;
  readonly colours: ReadonlyMap<string, string>;
}

/** What each snippet adds to one page, in figures. */
export function PageWeight({ site, page, colours }: PageWeightProps) {
  const { path, device, bare, adds, snippets, sharedBytes, running, isWithin, sentence, advice } = page;
  return (
    <Section title={say(WEIGHT.page, { path, device: WEIGHT.devices[device] })}>
      <p className={cn('flex gap-2 text-sm', isWithin === false && 'text-danger')}>
        {isWithin === false && <CircleAlert className="size-5 shrink-0" aria-hidden />}
        {isWithin === true && <CircleCheck className="size-5 shrink-0 text-good" aria-hidden />}
        <span>
          {sentence} {advice !== '' && <span className="text-ink">{advice}</span>}
        </span>
      </p>
      {running > 0 && snippets.length === 0 && (
        <p className="mt-2 text-sm text-muted">{say(WEIGHT.whole, { count: running })}</p>
      )}
      <div className="mt-3 overflow-x-auto">
        <table className="w-full text-sm tabular-nums">
          <thead className="text-left text-[13px] text-muted">
            <tr>
              <th scope="col" className="py-1 pr-3 font-medium">
                {WEIGHT.who}
              </th>
              {[WEIGHT.size, WEIGHT.requests, WEIGHT.blocks, WEIGHT.jumps, WEIGHT.ready].map((name) => (
                <th key={name} scope="col" className="px-2 py-1 text-right font-medium whitespace-nowrap">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {snippets.map((one) => (
              <tr key={one.snippet} className="border-t border-line">
                <th scope="row" className="py-1.5 pr-3 text-left font-medium">
                  <span
                    className="mr-2 inline-block size-2.5 rounded-sm"
                    style={{ backgroundColor: colours.get(one.snippet) }}
                    aria-hidden
                  />
                  <Link
                    to={`/sites/${site}/snippets/${one.snippet}`}
                    className="text-primary hover:underline"
                  >
                    {one.name}
                  </Link>
                </th>
                <Cells figures={one.adds} isDifference />
              </tr>
            ))}
            {sharedBytes > 0 && (
              <tr className="border-t border-line">
                <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                  {WEIGHT.together}
                </th>
                <td className="px-2 py-1.5 text-right whitespace-nowrap">{kilobytes(sharedBytes)}</td>
              </tr>
            )}
            <tr className="border-t border-line-strong font-medium">
              <th scope="row" className="py-1.5 pr-3 text-left font-medium">
                {running === 0 ? WEIGHT.nothing : WEIGHT.all}
              </th>
              <Cells figures={adds} isDifference />
            </tr>
            <tr className="border-t border-line text-muted">
              <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                {WEIGHT.itself}
              </th>
              <Cells figures={bare} />
            </tr>
          </tbody>
        </table>
      </div>
    </Section>
  );
}

function Cells({ figures, isDifference = false }: { figures: Figures; isDifference?: boolean }) {
  const { bytes, requests, blockingMs, shift, readyMs } = figures;
  const cell = (value: number | null, words: (value: number) => string): string =>
    value === null || (isDifference && value === 0) ? WEIGHT.none : words(value);
  const ms = (value: number): string => say(WEIGHT.ms, { ms: value });
  return (
    <>
      {[
        cell(bytes, kilobytes),
        cell(requests, String),
        cell(blockingMs, ms),
        cell(shift, (value) => value.toFixed(3)),
        cell(readyMs, ms),
      ].map((words, index) => (
        <td key={index} className="px-2 py-1.5 text-right whitespace-nowrap">
          {words}
        </td>
      ))}
    </>
  );
}
