import type { FindingResource, OpenFindingResource } from '@pragmatica/contract';
import { isWaivable } from '@pragmatica/core';
import { Hourglass, Wrench } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { Button } from '../../ui/button';
import { HelpLink } from '../../ui/help-link';
import { cn } from '../../ui/cn';
import { FindingComments } from '../comments/finding-comments';
import { FINDING_LINKS } from './finding-links';
import { FixDialog } from './fix-dialog';
import { WaiveDialog } from './waive-dialog';
import { FINDINGS } from '../../texts/findings';
import { say } from '../../texts/say';

const EDGE: Record<FindingResource['severity'], string> = {
  error: 'border-l-danger',
  warning: 'border-l-signal',
  advice: 'border-l-primary',
};

/** One finding: what, the places side by side, why, and what to do. */
export function FindingCard({ site, finding }: { site: string; finding: OpenFindingResource }) {
  const [isOpen, setOpen] = useState(false);
  const [isWaiving, setWaiving] = useState(false);
  const card = useRef<HTMLLIElement>(null);
  const isLinked = useLocation().hash === `#${encodeURIComponent(finding.id)}`;
  useEffect(() => {
    if (isLinked) card.current?.scrollIntoView({ block: 'center' });
  }, [isLinked]);
  const link = FINDING_LINKS[finding.check];
  const names = new Map(finding.subjects.map(({ snippet, name }) => [snippet, name]));
  return (
    <li
      ref={card}
      className={cn(
        'space-y-3 rounded-xl border border-l-4 border-line bg-surface p-4 sm:p-5',
        EDGE[finding.severity],
      )}
    >
      <h3 className="font-semibold">{finding.title}</h3>
      {finding.lapsed && (
        <p className="rounded-md bg-signal-soft px-3 py-1.5 text-[13px] text-signal">
          {say(
            finding.lapsed.cause === 'ended' ? FINDINGS.acceptedUntil : FINDINGS.acceptedChanged,
            finding.lapsed.waiver,
          )}
        </p>
      )}
      {finding.evidence.length > 0 && (
        <div className={cn('grid gap-3', finding.evidence.length > 1 && 'md:grid-cols-2')}>
          {finding.evidence.map(({ part, line, text, note }, index) => (
            <figure key={index} className="min-w-0 rounded-lg border border-line bg-raised">
              <figcaption className="flex flex-wrap gap-x-2 border-b border-line px-3 py-1.5 text-[13px]">
                <Link to={`../snippets/${part.split('/')[0]!}`} className="font-medium hover:underline">
                  {names.get(part.split('/')[0]!) ?? part}
                </Link>
                <span className="text-muted">{say(FINDINGS.lineLine, { line })}</span>
                <span className="ml-auto text-muted">{note}</span>
              </figcaption>
              <pre className="overflow-x-auto px-3 py-2 font-mono text-xs whitespace-pre-wrap [overflow-wrap:anywhere]">
                {text}
              </pre>
            </figure>
          ))}
        </div>
      )}
      <p className="text-sm text-muted">
        {finding.why} <HelpLink to={`checks#${finding.check}`} subject={finding.title} />
      </p>
      <p className="text-sm">
        <span className="font-semibold">{FINDINGS.whatDo} </span>
        {finding.advice}
      </p>
      <div className="flex flex-wrap gap-2">
        {finding.fix && (
          <Button
            look="primary"
            needs="edit"
            size="small"
            className="h-auto min-h-7 max-w-full py-1 text-left whitespace-normal"
            onClick={() => setOpen(true)}
          >
            <Wrench className="size-3.5 shrink-0" aria-hidden /> {finding.fix.title.replace(/\.$/, '')}…
          </Button>
        )}
        {link && (
          <Button asChild look="primary" size="small">
            <Link to={link.to}>{link.label}</Link>
          </Button>
        )}
        {[...names].map(([snippet, name]) => (
          <Button key={snippet} asChild size="small">
            <Link to={`../snippets/${snippet}`}>{say(FINDINGS.openName, { name })}</Link>
          </Button>
        ))}
        {isWaivable(finding) && (
          <Button look="quiet" size="small" needs="edit" onClick={() => setWaiving(true)}>
            <Hourglass className="size-3.5" aria-hidden /> {FINDINGS.acceptWhile}
          </Button>
        )}
        <FindingComments site={site} finding={finding.id} isAskedFor={isLinked} />
      </div>
      {isWaiving && <WaiveDialog site={site} finding={finding} isOpen onOpenChange={setWaiving} />}
      {finding.fix && <FixDialog site={site} finding={finding} isOpen={isOpen} onOpenChange={setOpen} />}
    </li>
  );
}
