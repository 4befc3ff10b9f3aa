import { createSetUpToken } from './auth/accounts.js';
import { migrate, openDatabase, storeOf } from './storage/orm.js';

/** Prints a bearer token for filling in the demo. It lasts an hour; the database must be at hand, the service need not run. */
const orm = await openDatabase(process.env['DATABASE_URL']!);
await migrate(orm);
console.log(await createSetUpToken(storeOf(orm).fork()));
await orm.close(true);
