/** Runs SQL, with parameters for its question marks, in a transaction or on a connection that somebody else has begun. */
export type Run = <T extends object>(sql: string, params?: readonly unknown[]) => Promise<T[]>;
