import { useMemo } from 'react';
import { Bindings } from '../keys/bindings';
import { useSettings } from './live';

const AS_THEY_COME = new Bindings();

/** The keys that are bound now: those of the studio, once they are known. */
export function useBindings(): Bindings {
  const { data: settings } = useSettings();
  const own = settings?.keys;
  return useMemo(() => (own ? new Bindings(own) : AS_THEY_COME), [own]);
}
