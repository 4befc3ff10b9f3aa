import { useQuery } from '@tanstack/react-query';
import { Monitor, Smartphone, Tablet } from 'lucide-react';
import { sessionsQuery } from '../../api/account';
import { useChangeOf } from '../../api/change';
import { api } from '../../api/client';
import { ACCOUNT } from '../../texts/account';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';
import { Failure, Loading } from '../../ui/states';
import { Time, timeWords } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { Section } from '../../ui/section';

const ICONS = { phone: Smartphone, tablet: Tablet, desktop: Monitor } as const;

/** Browsers that are signed in, this one first. */
export function SessionsSection() {
  const sessions = useQuery(sessionsQuery);
  const toast = useToast();
  const end = useChangeOf('account', (session: number) => api.call('endSession', { params: { session } }));
  const endOthers = useChangeOf('account', () => api.call('endOtherSessions', {}));
  const done = { onSuccess: () => toast({ tone: 'done', title: ACCOUNT.ended }) };
  const shown = (sessions.data ?? []).toSorted((a, b) => Number(b.isThis) - Number(a.isThis));
  return (
    <Section title={ACCOUNT.sessionsTitle} text={ACCOUNT.sessionsText}>
      {sessions.isPending && <Loading lines={2} />}
      {sessions.isError && <Failure error={sessions.error} onRetry={() => void sessions.refetch()} />}
      <ul className="divide-y divide-line">
        {shown.map(({ id, device, openedFrom, createdAt, lastUsedAt, isThis }) => {
          const Icon = ICONS[device ?? 'desktop'];
          return (
            <li key={id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
              <Icon className="size-4 shrink-0 text-muted" aria-hidden />
              <div className="min-w-52 flex-1">
                <p>
                  <span className="font-medium">
                    {isThis ? ACCOUNT.thisOne : ACCOUNT.devices[device ?? 'desktop']}
                  </span>{' '}
                  {openedFrom !== null && (
                    <span className="text-muted">{say(ACCOUNT.from, { address: openedFrom })}</span>
                  )}
                </p>
                <p className="text-[13px] text-muted">
                  {ACCOUNT.opened} <Time at={createdAt} /> · {ACCOUNT.used}{' '}
                  <Time at={lastUsedAt ?? createdAt} />
                </p>
              </div>
              {!isThis && (
                <Button
                  size="small"
                  look="quiet"
                  aria-label={say(ACCOUNT.endOf, { opened: timeWords(createdAt) })}
                  isBusy={end.isPending && end.variables === id}
                  onClick={() => end.mutate(id, done)}
                >
                  {ACCOUNT.end}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      <FormError error={end.error ?? endOthers.error} />
      {shown.length > 1 && (
        <Button isBusy={endOthers.isPending} onClick={() => endOthers.mutate(undefined, done)}>
          {ACCOUNT.endOthers}
        </Button>
      )}
    </Section>
  );
}
