import { deliveryOf, summarizeDelivery, type DeliveryState, type SnippetDelivery } from '@pragmatica/core';
import { CircleCheck, SearchCheck, Square } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { Progress } from 'radix-ui';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useSiteKey } from '../../layout/site-layout';
import { siteQuery } from '../../api/queries';
import { isPublished } from '../../api/sites';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { Empty, Failure } from '../../ui/states';
import { useVerification, type PageEvent, type Verification } from './use-verification';
import { VERIFICATION } from '../../texts/verification';
import { say } from '../../texts/say';

/** Fetches the live pages as a visitor would and shows, snippet by snippet, whether each stands where it should. */
export function VerificationView() {
  const site = useSiteKey();
  const { verification, run: runOn, stop } = useVerification(site);
  const shown = useQuery(siteQuery(site)).data?.data;
  const hosts = shown?.hosts ?? [];
  const hasRelease = isPublished(shown);
  const [chosen, setChosen] = useState<string>();
  const host =
    hosts.find((one) => one.host === chosen) ?? hosts.find(({ environment }) => environment === 'live');
  const run = (): void => runOn(host?.host);
  const { state, pages } = verification;
  const snippets = useMemo(() => summarizeDelivery(pages), [pages]);
  const unreachable = pages.filter((page) => page.problem !== null);
  const startButton = (
    <Button look="primary" onClick={run}>
      <SearchCheck className="size-4" aria-hidden />{' '}
      {state === 'idle' ? VERIFICATION.checkLivePages : VERIFICATION.checkAgain}
    </Button>
  );
  return (
    <div className="max-w-4xl space-y-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{VERIFICATION.checkLivePages}</h1>
          <p className="text-sm text-muted">{VERIFICATION.everyKnownPage}</p>
        </div>
        {hosts.length > 1 && host && (
          <select
            aria-label={VERIFICATION.host}
            className={cn(inputStyle, 'w-full sm:ml-auto sm:w-72')}
            value={host.host}
            disabled={state === 'running'}
            onChange={(event) => setChosen(event.target.value)}
          >
            {hosts.map((one) => (
              <option key={one.host} value={one.host}>
                {say(VERIFICATION.hostAndWay, { host: one.host, way: deliveryOf(one.delivery).name })}
              </option>
            ))}
          </select>
        )}
        {state === 'running' && (
          <Button onClick={stop}>
            <Square className="size-3.5" aria-hidden /> {VERIFICATION.stop}
          </Button>
        )}
        {state !== 'running' && state !== 'idle' && startButton}
      </div>
      {state === 'idle' &&
        (hasRelease ? (
          <Empty title={VERIFICATION.reallyThere} action={startButton}>
            {VERIFICATION.savedNotLive}
          </Empty>
        ) : (
          <Empty
            title={VERIFICATION.nothingLive}
            action={
              <Button asChild look="primary">
                <Link to={`/sites/${site}/strip`}>{VERIFICATION.toDraft}</Link>
              </Button>
            }
          >
            {VERIFICATION.nothingLiveText}
          </Empty>
        ))}
      {state !== 'idle' && <RunLine verification={verification} />}
      {verification.error && <Failure error={verification.error} onRetry={run} />}
      {state === 'done' &&
        unreachable.length === 0 &&
        snippets.every((entry) => entry.problems.length === 0) && (
          <p className="flex gap-2 rounded-xl border border-line bg-surface p-4 text-sm text-good">
            <CircleCheck className="size-5 shrink-0" aria-hidden /> {VERIFICATION.everythingStandsWhere}
          </p>
        )}
      {unreachable.length > 0 && <Unreachable pages={unreachable} />}
      {snippets.length > 0 && (
        <ul
          aria-label={VERIFICATION.snippets}
          className="divide-y divide-line rounded-xl border border-line bg-surface"
        >
          {[...snippets]
            .sort((a, b) => b.problems.length - a.problems.length)
            .map((entry) => (
              <SnippetRow key={entry.snippet} site={site} entry={entry} />
            ))}
        </ul>
      )}
    </div>
  );
}

function RunLine({ verification: { state, start, pages } }: { verification: Verification }) {
  const total = start?.total ?? 0;
  return (
    <div className="space-y-1.5">
      <Progress.Root
        value={pages.length}
        max={Math.max(1, total)}
        aria-label={VERIFICATION.pagesLooked}
        className="h-1.5 overflow-hidden rounded-full bg-line"
      >
        <Progress.Indicator
          className="h-full rounded-full bg-primary transition-[width]"
          style={{ width: `${total === 0 ? 0 : (100 * pages.length) / total}%` }}
        />
      </Progress.Root>
      <p role="status" className="text-[13px] text-muted">
        {start === undefined
          ? state === 'running' && VERIFICATION.askingSitePages
          : say(state === 'stopped' ? VERIFICATION.progressStopped : VERIFICATION.progress, {
              count: pages.length,
              total,
              address: start.address,
              release: start.release,
            })}
      </p>
    </div>
  );
}

const STATES: Record<DeliveryState, { label: string; look: string }> = {
  delivered: { label: VERIFICATION.delivered, look: 'bg-primary-soft text-primary' },
  'left-out': { label: VERIFICATION.noPlace, look: 'bg-signal-soft text-signal' },
  twice: { label: VERIFICATION.twice, look: 'bg-danger-soft text-danger' },
  'wrong-place': { label: VERIFICATION.wrongPlace, look: 'bg-danger-soft text-danger' },
  missing: { label: VERIFICATION.missing, look: 'bg-danger-soft text-danger' },
};

function SnippetRow({ site, entry }: { site: string; entry: SnippetDelivery }) {
  return (
    <li className="px-4 py-3">
      <div className="flex flex-wrap items-center gap-2">
        <Link to={`/sites/${site}/snippets/${entry.snippet}`} className="mr-auto font-medium hover:underline">
          {entry.name}
        </Link>
        {entry.pages.map(({ state, count }) => (
          <span
            key={state}
            className={cn('rounded-full px-2 py-0.5 text-xs font-medium', STATES[state].look)}
          >
            {STATES[state].label} {count} {count === 1 ? 'page' : 'pages'}
          </span>
        ))}
      </div>
      {entry.problems.map(({ message, paths }) => (
        <div key={message} className="mt-1.5 text-sm">
          <p>{message}</p>
          <p className="font-mono text-xs break-words text-muted">{paths.join('  ')}</p>
        </div>
      ))}
    </li>
  );
}

function Unreachable({ pages }: { pages: readonly PageEvent[] }) {
  return (
    <section className="rounded-xl border border-danger/40 bg-danger-soft p-4 text-sm">
      <h2 className="text-danger">{VERIFICATION.pagesCouldNot}</h2>
      <ul className="mt-1 space-y-1">
        {pages.map((page) => (
          <li key={page.path}>
            <span className="font-mono text-xs">{page.path}</span> {page.problem}
          </li>
        ))}
      </ul>
    </section>
  );
}
