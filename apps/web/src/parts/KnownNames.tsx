import { useGet } from '../data/useGet';

/** Names that a browser offers of: more it would not show. */
const MOST = 500;

/** The clients or places that shoots have already, offered while one is typed, so that one of them is not written in two ways. */
export function KnownNames({ id, of }: { id: string; of: 'client' | 'place' }) {
  const { data } = useGet(`/shoots/groups?by=${of}`);
  return (
    <datalist id={id}>
      {data
        ?.filter(({ name }) => name !== '')
        .slice(0, MOST)
        .map(({ name }) => (
          <option key={name} value={name} />
        ))}
    </datalist>
  );
}
