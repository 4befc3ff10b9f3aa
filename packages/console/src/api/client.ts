import { createClient } from '@pragmatica/contract';

/** The console's own service, with the session cookie. */
export const api = createClient({ server: '' });
