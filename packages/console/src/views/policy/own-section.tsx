import type { PolicyResource } from '@pragmatica/contract';
import { denySource } from '@pragmatica/core';
import { X } from 'lucide-react';
import { useSetPolicy } from '../../api/policy';
import { POLICY } from '../../texts/policy';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { useToast } from '../../ui/toast';
import { Section } from '../../ui/section';
import { Source } from './source';

interface OwnSectionProps {
  readonly site: string;
  readonly view: PolicyResource;
}

/** What pages without a policy get, directive by directive; each source can be taken off. */
export function OwnSection({ site, view }: OwnSectionProps) {
  const { host, mode, own, isProposed, survey, reasons, canSend } = view;
  const set = useSetPolicy(site, host);
  const toast = useToast();
  const remove = (directive: string, source: string): void =>
    set.run({ mode, own: denySource(own, { directive, source }) }, () =>
      toast({
        tone: 'done',
        title: say(POLICY.removedTitle, { directive, source }),
      }),
    );
  if (!survey && isProposed) return undefined;
  return (
    <Section title={POLICY.ownTitle} text={POLICY.ownText}>
      {isProposed && survey && (
        <p className="text-[13px] text-muted">{say(POLICY.proposed, { number: survey.number })}</p>
      )}
      <dl className="divide-y divide-line border-y border-line">
        {Object.entries(own.directives).map(([directive, sources]) => (
          <div key={directive} className="flex flex-wrap gap-x-4 gap-y-1 py-2">
            <dt className="w-28 shrink-0">
              <Source>{directive}</Source>
            </dt>
            <dd className="flex min-w-0 flex-1 flex-wrap gap-1.5">
              {directive === 'script-src' && own.isStrict && <span>{POLICY.strict}</span>}
              {directive === 'script-src' && !own.isStrict && sources.length === 0 && (
                <span>{POLICY.nothing}</span>
              )}
              {sources.map((source) => (
                <SourceChip
                  key={source}
                  text={source}
                  isBusy={set.isPending}
                  label={say(POLICY.remove, { source })}
                  onRemove={canSend ? () => remove(directive, source) : undefined}
                />
              ))}
            </dd>
          </div>
        ))}
      </dl>
      {own.allowed.length > 0 && (
        <div>
          <h3>{POLICY.allowedTitleAll}</h3>
          <ul className="mt-1 flex flex-wrap gap-1.5">
            {own.allowed.map(({ directive, source }) => (
              <li key={`${directive} ${source}`}>
                <SourceChip
                  text={`${directive} ${source}`}
                  isBusy={set.isPending}
                  label={say(POLICY.remove, { source })}
                  onRemove={canSend ? () => remove(directive, source) : undefined}
                />
              </li>
            ))}
          </ul>
        </div>
      )}
      {!isProposed && survey && canSend && (
        <Button
          size="small"
          isBusy={set.isPending}
          onClick={() =>
            set.run({ mode, fresh: true }, () =>
              toast({ tone: 'done', title: say(POLICY.freshTitle, { number: survey.number }) }),
            )
          }
        >
          {say(POLICY.fresh, { number: survey.number })}
        </Button>
      )}
      {reasons.map((reason) => (
        <p key={reason} className="text-[13px] text-muted">
          {reason}
        </p>
      ))}
    </Section>
  );
}

interface SourceChipProps {
  readonly text: string;
  readonly label: string;
  readonly isBusy: boolean;
  readonly onRemove: (() => void) | undefined;
}

/** A source that can be taken off. */
function SourceChip({ text, label, isBusy, onRemove }: SourceChipProps) {
  return (
    <span className="flex max-w-full items-center gap-1 rounded-md border border-line bg-raised py-0.5 pr-1 pl-2">
      <Source>{text}</Source>
      {onRemove && (
        <button
          type="button"
          className="rounded p-0.5 text-muted hover:text-ink"
          aria-label={label}
          disabled={isBusy}
          onClick={onRemove}
        >
          <X className="size-3.5" aria-hidden />
        </button>
      )}
    </span>
  );
}
