import { ApiError, confirmingClient, createClient } from '@pragmatica/contract';

const plain = createClient({ server: '' });

/** Asks somebody for their password; true once the service has taken it, false where they would rather not. */
type Ask = () => Promise<boolean>;

let ask: Ask | undefined;

/** Whoever can ask for a password says so; there is one at a time. @returns takes it back */
export function onConfirmation(next: Ask): () => void {
  ask = next;
  return () => (ask = undefined);
}

/** Gives the password again. */
export async function confirmPassword(password: string): Promise<void> {
  await plain.call('confirmPassword', { body: { password } });
}

/** The console's own service, with the session cookie. What needs the password again asks for it, and goes on. */
export const api = confirmingClient(plain, async () => (await ask?.()) ?? false);

/** Whether what was asked for is not there. */
export function isNotFound(error: Error | null): boolean {
  return error instanceof ApiError && error.status === 404;
}
