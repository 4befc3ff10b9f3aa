import { ChevronDown } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { COMMON } from '../texts/common';
import { say } from '../texts/say';
import { Button } from './button';
import { HelpLink } from './help-link';

interface FoldedProps {
  /** Where links lead: a link to it opens it. */
  readonly id: string;
  readonly title: string;
  /** Its page under Help: `reach#consent`. */
  readonly help?: string;
  /** What is decided already, in one line. */
  readonly summary: ReactNode;
  /** Open whatever was chosen: something in it is missing or wrong. */
  readonly isForced?: boolean;
  readonly children: ReactNode;
}

/** A subject of a form that is decided already: one line, and the whole of it when it is to be changed. */
export function Folded({ id, title, help, summary, isForced = false, children }: FoldedProps) {
  const { hash } = useLocation();
  const isAskedFor = hash === `#${id}`;
  const [isChosen, setChosen] = useState(isAskedFor);
  const section = useRef<HTMLElement>(null);
  useEffect(() => {
    if (!isAskedFor) return;
    setChosen(true);
    section.current?.scrollIntoView();
  }, [isAskedFor]);
  const isOpen = isChosen || isForced;
  const label = isOpen ? COMMON.fold : COMMON.change;
  return (
    <Collapsible.Root asChild open={isOpen} onOpenChange={setChosen}>
      <section
        id={id}
        ref={section}
        aria-labelledby={`${id}-title`}
        className="scroll-mt-16 rounded-xl border border-line bg-surface px-4 py-3 sm:px-5"
      >
        <div className="flex items-start gap-3">
          <div className="min-w-0 flex-1">
            <div className="flex items-center gap-1.5">
              <h2 id={`${id}-title`} className="text-base">
                {title}
              </h2>
              {help !== undefined && <HelpLink to={help} subject={title} />}
            </div>
            <div className="mt-0.5 text-sm text-muted" aria-live="polite">
              {summary}
            </div>
          </div>
          {!isForced && (
            <Collapsible.Trigger asChild>
              <Button
                look="quiet"
                size="small"
                aria-label={say(COMMON.changeOf, { what: label, subject: title })}
              >
                {label}
                <ChevronDown className={isOpen ? 'size-4 rotate-180' : 'size-4'} aria-hidden />
              </Button>
            </Collapsible.Trigger>
          )}
        </div>
        <Collapsible.Content
          className="mt-3 space-y-4 border-t border-line pt-4 pb-2"
          // Whoever is typing in it is not folded away when nothing is missing any longer.
          onFocus={() => setChosen(true)}
        >
          {children}
        </Collapsible.Content>
      </section>
    </Collapsible.Root>
  );
}
