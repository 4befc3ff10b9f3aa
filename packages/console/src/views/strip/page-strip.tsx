import { NAMED_PLACEMENTS, placementKey, placementTitle } from '@pragmatica/core';
import type { ReactNode } from 'react';
import type { SurveyedItem } from '../../api/surveys';
import { cn } from '../../ui/cn';
import { ForeignItems } from './foreign-items';
import { PlacementSlot } from './placement-slot';
import { anchorsOf, partsAt, stripContext, type StripData } from './strip-context';
import { STRIP } from '../../texts/strip';
import { say } from '../../texts/say';

/** The page drawn from head to foot, with its parts where they run and in the order in which they run. */
export function PageStrip({ foreign, ...data }: StripData & { readonly foreign: readonly SurveyedItem[] }) {
  const { plan, site } = data;
  const isInHead = ({ place }: SurveyedItem): boolean => place === 'head';
  const ownHead = foreign.filter(isInHead);
  const ownBody = foreign.filter((item) => !isInHead(item));
  const context = stripContext(data);
  const anchors = anchorsOf(plan.parts);
  const [headStart, headEnd, bodyStart, bodyEnd] = NAMED_PLACEMENTS.map((placement) => (
    <PlacementSlot
      key={placement}
      placement={placement}
      title={placementTitle(placement)}
      parts={partsAt(plan.parts, placement)}
      context={context}
    />
  ));
  return (
    <section
      aria-label={say(STRIP.pagePathFrom, { path: plan.path })}
      className="overflow-clip rounded-xl border border-line-strong bg-surface shadow-card"
    >
      <Region name="head" tone="head" note={STRIP.notSeenRead}>
        {headStart}
        <OwnContent lines={['w-2/5', 'w-3/5']} label={STRIP.pageSOwn}>
          <ForeignItems site={site} path={plan.path} items={ownHead} />
        </OwnContent>
        {headEnd}
      </Region>
      <Region name="body" tone="body" note={STRIP.whatVisitorsSee}>
        {bodyStart}
        <OwnContent lines={['w-1/3', 'w-4/5', 'w-3/5']} label={STRIP.pageSOwnContent}>
          <ForeignItems site={site} path={plan.path} items={ownBody} />
        </OwnContent>
        {anchors.map((placement) => (
          <PlacementSlot
            key={placementKey(placement)}
            placement={placement}
            title={placementTitle(placement)}
            parts={partsAt(plan.parts, placement)}
            context={context}
          />
        ))}
        {anchors.length > 0 && <OwnContent lines={['w-2/3']} label="" />}
        {bodyEnd}
      </Region>
    </section>
  );
}

function Region({
  name,
  note,
  tone,
  children,
}: {
  name: string;
  note: string;
  tone: 'head' | 'body';
  children: ReactNode;
}) {
  return (
    <div className="grid grid-cols-[2.25rem_minmax(0,1fr)] border-b border-line last:border-b-0 sm:grid-cols-[3rem_minmax(0,1fr)]">
      <div
        className={cn(
          'relative border-r border-line',
          tone === 'head' ? 'bg-head-soft text-head' : 'bg-body-soft text-body',
        )}
      >
        <p className="sticky top-16 flex items-center gap-2 px-2 py-4 font-mono text-[13px] font-semibold [writing-mode:vertical-rl]">
          {name} <span className="font-sans text-xs font-normal">{note}</span>
        </p>
      </div>
      <div className="min-w-0 space-y-3 p-3 sm:p-4">{children}</div>
    </div>
  );
}

/** What the page holds itself, drawn as grey lines: it is there, and it is not ours. */
function OwnContent({
  lines,
  label,
  children,
}: {
  lines: readonly string[];
  label: string;
  children?: ReactNode;
}) {
  return (
    <div className="hatched rounded-md px-3 py-2.5">
      <div aria-hidden className="space-y-1.5">
        {lines.map((width, index) => (
          <div key={index} className={cn('h-1.5 rounded-full bg-line-strong/60', width)} />
        ))}
      </div>
      {label !== '' && <p className="mt-2 w-fit rounded bg-surface px-1 text-xs text-muted">{label}</p>}
      {children}
    </div>
  );
}
