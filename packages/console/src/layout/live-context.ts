import { createContext, useContext, useEffect } from 'react';
import type { Live } from '../api/live';

interface LiveSite extends Live {
  /** Says whether something on the page that is shown is changed and not saved. */
  readonly setEditing: (isEditing: boolean) => void;
}

export const LiveContext = createContext<LiveSite>({
  people: [],
  isConnected: false,
  setEditing: () => undefined,
});

/** Who else is at the site that is shown, and whether changes are told as they happen. */
export function useLiveSite(): Live {
  return useContext(LiveContext);
}

/** Lets others see that somebody is changing something here, as long as it is not saved. */
export function useEditingHere(isEditing: boolean): void {
  const { setEditing } = useContext(LiveContext);
  useEffect(() => {
    setEditing(isEditing);
    return () => setEditing(false);
  }, [isEditing, setEditing]);
}
