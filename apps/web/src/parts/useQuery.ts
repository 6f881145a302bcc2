import { useSearchParams } from 'react-router';

/** What the address asks for, and how one part of it is set (empty: taken out). It takes the place of the address before. */
export function useQuery(): readonly [URLSearchParams, (name: string, value: string) => void] {
  const [query, setQuery] = useSearchParams();
  const set = (name: string, value: string) =>
    setQuery(
      (now) => {
        const next = new URLSearchParams(now);
        if (value === '') next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return [query, set];
}
