import useSWR, { type SWRConfiguration, type SWRResponse } from 'swr';
import type { Answer, Known } from './apiTypes';

/** What stands at an address of the contract, kept and shared by all who ask; null: nothing is asked yet. */
export const useGet = <const P extends string>(
  path: (P & Known<'get', P>) | null,
  options?: SWRConfiguration,
): SWRResponse<Answer<'get', P>> => useSWR<Answer<'get', P>>(path, options);
