import { join } from 'node:path';
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { createPool, type Pool } from 'mysql2/promise';
import { root } from '../root.ts';
import type { Mariadb } from './mariadb.ts';
import * as schema from './schema.ts';

export type Database = MySql2Database<typeof schema>;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
/** What can be read from. */
export type Reader = Database | Transaction;

/** Opens a pool on the database and brings its tables up to date. */
export async function connect(mariadb: Mariadb): Promise<{ database: Database; close: () => Promise<void> }> {
  const { host, port, user, password, database: name } = mariadb;
  const pool: Pool = createPool({ host, port, user, password, database: name, connectionLimit: 8, timezone: 'Z' });
  const database = drizzle(pool, { schema, mode: 'default' }) as unknown as Database;
  await migrateUp(database);
  return { database, close: () => pool.end() };
}

/** Brings a database’s tables up to this version. */
export function migrateUp(database: Database): Promise<void> {
  return migrate(database, { migrationsFolder: join(root, 'server', 'database', 'migrations') });
}

/**
 * Reads several things as they stood at one moment, so that they agree with each other whatever is written meanwhile.
 * (MariaDB holds the moment of the first reading for the whole transaction.)
 */
export function atOneMoment<T>(database: Database, read: (then: Transaction) => Promise<T>): Promise<T> {
  return database.transaction(read, { isolationLevel: 'repeatable read', accessMode: 'read only' });
}
