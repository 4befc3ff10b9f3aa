import type { PlanQuery } from '@pragmatica/contract';
import { DEVICES, type Device } from '@pragmatica/core';

export type SetName = 'draft' | 'live';

/** The page load that the strip shows; it stands in the address, so that it can be sent to somebody. */
export interface Question {
  readonly path: string;
  readonly of: SetName;
  readonly environment: 'live' | 'staging';
  readonly device: Device;
  /** A local time at the site, `2027-03-31T10:00`; empty for now. */
  readonly at: string;
  /** Purposes with commas between; empty for none. */
  readonly consent: string;
  readonly visitor: '' | 'first' | 'returning';
}

export const FIRST_QUESTION: Question = {
  path: '/',
  of: 'draft',
  environment: 'live',
  device: 'desktop',
  at: '',
  consent: '',
  visitor: '',
};

export function readQuestion(search: URLSearchParams): Question {
  const given = (name: keyof Question): string => search.get(name) ?? FIRST_QUESTION[name];
  const device = given('device') as Device;
  const visitor = given('visitor');
  const path = given('path');
  return {
    path: path.startsWith('/') ? path : '/',
    of: given('of') === 'live' ? 'live' : 'draft',
    environment: given('environment') === 'staging' ? 'staging' : 'live',
    device: DEVICES.includes(device) ? device : 'desktop',
    at: given('at'),
    consent: given('consent'),
    visitor: visitor === 'first' || visitor === 'returning' ? visitor : '',
  };
}

/** As it stands in the address: what is as always is left out. */
export function writeQuestion(question: Question): Record<string, string> {
  return Object.fromEntries(
    Object.entries(question).filter(
      ([name, value]) => name === 'path' || name === 'of' || value !== FIRST_QUESTION[name as keyof Question],
    ),
  );
}

export function toQuery({ path, of, environment, device, at, consent, visitor }: Question): PlanQuery {
  return {
    path,
    environment,
    device,
    ...(of === 'draft' ? { of } : {}),
    ...(at === '' ? {} : { at }),
    ...(consent === '' ? {} : { consent }),
    ...(visitor === '' ? {} : { visitor }),
  };
}
