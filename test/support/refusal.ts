import { ApiError } from '@pragmatica/contract';
import { expect } from 'chai';

export interface Refusal {
  readonly status: number;
  /** Of the message. */
  readonly id: string;
  readonly detail: string;
  /** Of the first field that it is about; empty for none. */
  readonly pointer: string;
}

/** Why the service refuses a call; fails where it does not. */
export async function refusal(call: Promise<unknown>): Promise<Refusal> {
  try {
    await call;
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    const { status, detail, message, errors } = error.problem;
    return { status, detail: detail ?? '', id: message?.id ?? '', pointer: errors?.[0]?.pointer ?? '' };
  }
  return expect.fail('The call was not refused.');
}
