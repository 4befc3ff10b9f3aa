import type { PolicyResource } from '@pragmatica/contract';
import { X } from 'lucide-react';
import { useSetPolicy } from '../../api/policy';
import { POLICY } from '../../texts/policy';
import { say } from '../../texts/say';
import { useToast } from '../../ui/toast';
import { withoutSource } from './allow';
import { Section, Source } from './section';

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
    set.run({ mode, own: withoutSource(own, directive, source) }, () =>
      toast({
        tone: 'done',
        title: say(POLICY.removedTitle, { directive, source }),
        text: '',
      }),
    );
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
                <span
                  key={source}
                  className="flex max-w-full items-center gap-1 rounded-md border border-line bg-raised py-0.5 pr-1 pl-2"
                >
                  <Source>{source}</Source>
                  {canSend && (
                    <button
                      type="button"
                      className="rounded p-0.5 text-muted hover:text-ink"
                      aria-label={say(POLICY.remove, { source })}
                      disabled={set.isPending}
                      onClick={() => remove(directive, source)}
                    >
                      <X className="size-3.5" aria-hidden />
                    </button>
                  )}
                </span>
              ))}
            </dd>
          </div>
        ))}
      </dl>
      {reasons.map((reason) => (
        <p key={reason} className="text-[13px] text-muted">
          {reason}
        </p>
      ))}
    </Section>
  );
}
