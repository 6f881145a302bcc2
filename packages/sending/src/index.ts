export * from './dropped';
export type { Hashed } from './hashing';
export * from './uploadQueue';
export * from './way';
