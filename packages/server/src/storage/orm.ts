import { MikroORM } from '@mikro-orm/postgresql';
import { Migrator } from '@mikro-orm/migrations';
import { entities } from './entities/index.js';
import { migrations } from './migrations/index.js';

/** Opens the database. Nothing is created or changed; see `migrate`. */
export async function openDatabase(url: string): Promise<MikroORM> {
  return MikroORM.init({
    clientUrl: url,
    entities,
    extensions: [Migrator],
    migrations: {
      migrationsList: [...migrations],
      tableName: 'migration',
      snapshot: false,
      allOrNothing: true,
    },
    pool: { min: 0, max: 10 },
    forceUtcTimezone: true,
    discovery: { warnWhenNoEntities: true },
    logger: () => undefined,
  });
}

/** Brings the schema to the newest version; does nothing when it is. Returns the names of the migrations that ran. */
export async function migrate(orm: MikroORM): Promise<string[]> {
  const done = await orm.migrator.up();
  return done.map((migration) => migration.name);
}
