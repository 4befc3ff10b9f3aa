import { createContext, useContext } from 'react';
import type { Right } from '@pragmatica/core';
import { MEMBERS } from '../texts/members';

/** What somebody may do at the site that is shown; undefined where no site is, or while nobody knows. */
export const RightsContext = createContext<readonly Right[] | undefined>(undefined);

/** Whether something may be done at the site that is shown. While nobody knows it may: the service has the last word. */
export function useMay(right: Right): boolean {
  return useContext(RightsContext)?.includes(right) ?? true;
}

/** Why something cannot be done, where a right is missing. */
export function useMissingRight(right: Exclude<Right, 'view'> | undefined): string | undefined {
  const rights = useContext(RightsContext);
  return right === undefined || !rights || rights.includes(right) ? undefined : MEMBERS.needs[right];
}
