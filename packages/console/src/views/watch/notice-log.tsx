import { useInfiniteQuery } from '@tanstack/react-query';
import { noticesQuery, useSendNotice, type Notice } from '../../api/watch';
import { LOCALE, say } from '../../texts/say';
import { WATCH } from '../../texts/watch';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { MoreButton } from '../../ui/more-button';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { Section } from '../visits/section';

const moment = new Intl.DateTimeFormat(LOCALE, { timeStyle: 'short' });

/** Notices that were sent, to whom, and whether they arrived. */
export function NoticeLog({ site }: { site: string }) {
  const notices = useInfiniteQuery(noticesQuery(site));
  const items = notices.data?.pages.flatMap((page) => page.items);
  return (
    <Section title={WATCH.notices}>
      {notices.isPending && <Loading lines={2} />}
      {notices.isError && <Failure error={notices.error} onRetry={() => void notices.refetch()} />}
      {items?.length === 0 && <p className="text-sm text-muted">{WATCH.noticesEmpty}</p>}
      {items && items.length > 0 && (
        <ul className="divide-y divide-line text-sm">
          {items.map((notice) => (
            <NoticeLine key={notice.id} site={site} notice={notice} />
          ))}
        </ul>
      )}
      <MoreButton list={notices}>{WATCH.more}</MoreButton>
    </Section>
  );
}

function NoticeLine({ site, notice }: { site: string; notice: Notice }) {
  const send = useSendNotice(site);
  const { id, subject, target, createdAt, state, answer } = notice;
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2.5">
      <div className="min-w-56 flex-1">
        <p className="font-medium">{subject}</p>
        <p className="text-[13px] break-all text-muted">
          {target}, <Time at={createdAt} />
        </p>
        {answer !== null && state !== 'sent' && <p className="text-[13px] text-muted">{answer}</p>}
      </div>
      <span
        className={cn(
          'text-[13px]',
          state === 'sent' ? 'text-good' : state === 'failed' ? 'text-danger' : 'text-muted',
        )}
      >
        {stateWords(notice)}
      </span>
      {state !== 'sent' && notice.attempts > 0 && (
        <Button
          size="small"
          isBusy={send.isPending}
          aria-label={say(WATCH.sendAgainOf, { subject })}
          onClick={() => send.run(id)}
        >
          {WATCH.sendAgain}
        </Button>
      )}
    </li>
  );
}

function stateWords({ state, attempts, nextAt }: Notice): string {
  if (state === 'sent') return WATCH.arrived;
  if (state === 'failed') return say(WATCH.failed, { attempts });
  return attempts === 0 || nextAt === null
    ? WATCH.waits
    : say(WATCH.waitsAgain, { when: moment.format(new Date(nextAt)) });
}
