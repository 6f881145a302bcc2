import { Beginning1795000000000 } from './1795000000000-beginning';

/** In order; a migration that has been released is never changed. */
export const MIGRATIONS = [Beginning1795000000000];
