import { many } from './format';

/** What somebody did in a gallery: `2 favourites · 3 chosen · 1 remark · 12 files taken along`; empty: they looked. */
export function saidByWords({
  favourites,
  chosen,
  remarks,
  taken,
}: {
  favourites: number;
  chosen: number;
  remarks: number;
  taken: number;
}): string {
  return [
    favourites > 0 && many(favourites, 'favourite'),
    chosen > 0 && `${chosen} chosen`,
    remarks > 0 && many(remarks, 'remark'),
    taken > 0 && `${many(taken, 'file')} taken along`,
  ]
    .filter((words) => words !== false)
    .join(' · ');
}
