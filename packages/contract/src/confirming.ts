import { ApiError, type ApiClient } from './client.js';
import type { Endpoint } from './endpoint.js';
import { endpoints, type EndpointName } from './endpoints/index.js';

export interface ConfirmingClient extends ApiClient {
  /** Asks for the password now, where a call that is made in another way will want it. @throws ApiError where nobody gives it */
  assertConfirmed(name: EndpointName): Promise<void>;
}

/**
 * A client that asks for the password where the service wants it again, and then goes on.
 *
 * @param ask - asks, and gives it to the service; false where whoever is asked would rather not
 */
export function confirmingClient(client: ApiClient, ask: () => Promise<boolean>): ConfirmingClient {
  const asking = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      if (!isAskedFor(error) || !(await ask())) throw error;
      return work();
    }
  };
  const assertConfirmed = async (name: EndpointName): Promise<void> => {
    const { needsConfirmation }: Endpoint = endpoints[name];
    if (needsConfirmation) await asking(async () => client.call('checkConfirmation', {}));
  };
  return {
    assertConfirmed,
    call: async (...args) => asking(async () => client.call(...args)),
    download: async (...args) => asking(async () => client.download(...args)),
    // What is read or sent once is asked for before it begins.
    async *stream(...args) {
      await assertConfirmed(args[0]);
      yield* client.stream(...args);
    },
    async *upload(...args) {
      await assertConfirmed(args[0]);
      yield* client.upload(...args);
    },
  };
}

function isAskedFor(error: unknown): boolean {
  return error instanceof ApiError && error.problem.type.endsWith('confirmation-required');
}
