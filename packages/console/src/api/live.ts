import { ApiError, type PresentPersonResource } from '@pragmatica/contract';
import { useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api } from './client';
import { sessionQuery } from './queries';
import { isSessionOver } from './session-over';

const FIRST_RETRY_MS = 1_000;
const LONGEST_RETRY_MS = 30_000;

/** What somebody has just changed here has been asked for again already. */
const OWN_MS = 3_000;

export interface Live {
  /** Who else looks at the site, where. */
  readonly people: readonly PresentPersonResource[];
  /** Whether changes are told as they happen. */
  readonly isConnected: boolean;
}

const NOBODY: Live = { people: [], isConnected: false };

interface Whereabouts {
  /** Below the site, such as `snippets/chat`. */
  readonly place: string;
  /** Whether something there is changed and not saved. */
  readonly isEditing: boolean;
}

/**
 * Follows a site, once it is known, as long as it is looked at: asks again for what others change, and says who is there. A browser has few connections to
 * one server (six over HTTP/1.1), so a window that nobody sees keeps none, unless something in it is not saved.
 */
export function useLive(site: string | undefined, { place, isEditing }: Whereabouts): Live {
  const client = useQueryClient();
  const isShown = useIsShown();
  const isOver = isSessionOver(useQuery(sessionQuery).error);
  const isWanted = !isOver && (isShown || isEditing);
  const [live, setLive] = useState(NOBODY);
  useEffect(() => {
    if (!isWanted || site === undefined) return;
    const left = new AbortController();
    const query = { at: place, editing: isEditing ? 'yes' : 'no' } as const;
    const isLeft = (): boolean => left.signal.aborted;
    const run = async (): Promise<void> => {
      for (let wait = FIRST_RETRY_MS; !isLeft(); wait = Math.min(wait * 2, LONGEST_RETRY_MS)) {
        try {
          for await (const event of api.stream('followSite', { params: { site }, query }, left.signal)) {
            // What happened while the line was broken, nobody tells.
            if (wait > FIRST_RETRY_MS) void client.invalidateQueries({ queryKey: ['site', site] });
            wait = FIRST_RETRY_MS;
            if (event.type === 'people') setLive({ people: event.people, isConnected: true });
            else if (event.type === 'changed') refresh(client, site, event);
          }
        } catch (error) {
          if (isSessionOver(error as Error))
            void client.invalidateQueries({ queryKey: sessionQuery.queryKey });
          if (error instanceof ApiError && error.status < 500 && error.status !== 429) break;
        }
        if (isLeft()) return;
        setLive(NOBODY);
        await pause(wait, left.signal);
      }
    };
    void run();
    return () => left.abort();
  }, [client, site, place, isEditing, isWanted]);
  return isWanted ? live : NOBODY;
}

function refresh(
  client: QueryClient,
  site: string,
  { what, by }: { readonly what: 'site' | 'comments'; readonly by: string | null },
): void {
  const isOwn = by !== null && by === client.getQueryData(sessionQuery.queryKey)?.login;
  const isKnown =
    isOwn &&
    client
      .getMutationCache()
      .getAll()
      .some(({ state }) => Date.now() - state.submittedAt < OWN_MS);
  if (isKnown) return;
  const queryKey = what === 'comments' ? ['site', site, 'comments'] : ['site', site];
  void client.invalidateQueries({ queryKey });
}

/** Whether the window is seen just now. */
function useIsShown(): boolean {
  const [isShown, setShown] = useState(() => document.visibilityState === 'visible');
  useEffect(() => {
    const look = (): void => setShown(document.visibilityState === 'visible');
    document.addEventListener('visibilitychange', look);
    return () => document.removeEventListener('visibilitychange', look);
  }, []);
  return isShown;
}

function pause(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      resolve();
    });
  });
}
