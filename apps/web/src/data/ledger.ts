import { useEffect } from 'react';
import useSWRInfinite from 'swr/infinite';
import type { Api } from './http';
import { listen } from './stream';
import { useGet } from './useGet';

/** What of the ledger is shown. */
export interface LedgerShown {
  client?: string;
  shootId?: string;
  frameId?: string;
  year?: string;
}

const ledgerQuery = (shown: LedgerShown): string => new URLSearchParams({ ...shown }).toString();

const under = (query: string): string => (query === '' ? '' : `?${query}`);

/** Where the list of these entries is fetched from. */
export const ledgerList = (shown: LedgerShown): string => `/api/ledger/list.csv${under(ledgerQuery(shown))}`;

/** What went out, by page, the newest first. */
export function useLedger(shown: LedgerShown) {
  const pages = useSWRInfinite<Api['LedgerPageDto']>(
    (_: number, last: Api['LedgerPageDto'] | null) => {
      if (last && last.next === null) return null;
      const query = new URLSearchParams({ ...shown, ...(last?.next && { before: last.next }) });
      return `/ledger${under(query.toString())}`;
    },
    { keepPreviousData: true },
  );
  const { mutate } = pages;
  useEffect(() => {
    const stops = [
      listen('posted', () => void mutate()),
      listen<Api['JobDto']>('job', ({ kind, state }) => {
        if (kind === 'delivery' && ['done', 'failed'].includes(state)) void mutate();
      }),
    ];
    return () => stops.forEach((stop) => stop());
  }, [mutate]);
  return pages;
}

export const useLedgerYears = () => useGet('/ledger/years');
export const useLedgerYear = (year: string | undefined) => useGet(year ? `/ledger/years/${year}` : null);
/** Which frames of a shoot went out, and when last. */
export const useWentOut = (shootId: string | null) => useGet(shootId ? `/shoots/${shootId}/went-out` : null);
