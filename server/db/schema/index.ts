// The tables, each with the types of its columns. A change of them is a new migration (`npx drizzle-kit generate`); triggers are written by hand there.
export * from './people';
export * from './shop';
export * from './library';
export * from './calls';
export * from './cases';
export * from './runs';
export * from './instruments';
export * from './learning';
export * from './ledger';
export * from './vault';
export * from './acts';
export * from './backups';
export * from './relations';
