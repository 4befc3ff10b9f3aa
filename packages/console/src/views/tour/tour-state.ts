import { useSyncExternalStore } from 'react';

/** The site that comes with the demo. */
export const DEMO_SITE = 'skerrywick';

/** Where somebody is in the tour. */
export interface TourPlace {
  /** Key of the site on which it is taken. */
  readonly site: string;
  readonly step: number;
}

const PLACE = 'pragmatica-tour';
const SEEN = 'pragmatica-tour-seen';

const listeners = new Set<() => void>();

function changed(): void {
  for (const listener of listeners) listener();
}

/** Goes to a step of the tour; it is there still when the page is loaded again. */
export function goToStep(place: TourPlace): void {
  sessionStorage.setItem(PLACE, JSON.stringify(place));
  changed();
}

/** Ends the tour, or declines it: it is not offered again in this browser. */
export function leaveTour(): void {
  sessionStorage.removeItem(PLACE);
  localStorage.setItem(SEEN, 'yes');
  changed();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Where somebody is in the tour; undefined for whoever does not take it. */
export function useTourPlace(): TourPlace | undefined {
  const kept = useSyncExternalStore(subscribe, () => sessionStorage.getItem(PLACE));
  return kept === null ? undefined : (JSON.parse(kept) as TourPlace);
}

/** Whether the tour is still to be offered. */
export function useIsTourNew(): boolean {
  return useSyncExternalStore(subscribe, () => localStorage.getItem(SEEN) === null);
}
