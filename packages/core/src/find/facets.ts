import type { Bits } from './bits';
import type { Codes } from './columns';
import type { CodedFact, FindIndex, SetName } from './findIndex';
import { SETS } from './findIndex';

/** One value that found frames have, and how many of them. */
export interface FacetCount {
  /** as a filter asks for it; null: frames of which it is not known */
  value: string | number | null;
  count: number;
}

export type FoundFacet = CodedFact | SetName | 'year' | 'shoot' | 'client' | 'place';
export type Facets = Partial<Record<FoundFacet, { counts: FacetCount[]; more: number }>>;

/** Values told of one fact: what a list beside the pictures can hold before somebody types instead. */
const TOLD = 40;

const FACTS: readonly CodedFact[] = [
  ...(['verdict', 'stars', 'label', 'body', 'lens', 'aperture', 'exposure', 'iso', 'focalLength'] as const),
  ...(['stage', 'role', 'raw', 'sign', 'detail', 'voice', 'edited', 'finished', 'delivered'] as const),
];
/** Facts that are numbers of a camera: in their own order, whatever their counts are. */
const NUMBERS: readonly FoundFacet[] = ['stars', 'aperture', 'exposure', 'iso', 'focalLength', 'year'];

/** How many of some frames have each value of each fact: all facts in one go over the frames, all sets in one over their words. */
export function facetsOf(index: FindIndex, found: Bits): Facets {
  const columns = FACTS.map((fact) => ({ fact, column: index.coded[fact] }));
  const counts = columns.map(({ column }) => new Uint32Array(column.values.length));
  const ofShoots = new Uint32Array(index.shootOf.values.length);
  const ofYears = new Map<number | null, number>();
  const { taken } = index.measured;
  const numbers = found.list();
  // Each column by itself reads its memory in order.
  columns.forEach(({ column }, i) => countCodes(column.codes, numbers, counts[i]!));
  countCodes(index.shootOf.codes, numbers, ofShoots);
  // Years are few, and follow each other: each is looked up once where it begins.
  let [year, count]: [number | null, number] = [null, 0];
  const tellYear = (): void => void (count > 0 && ofYears.set(year, (ofYears.get(year) ?? 0) + count));
  for (const n of numbers) {
    const at = taken.values[n]!;
    const its = Number.isNaN(at) ? null : Math.floor(at / 1e8);
    if (its !== year) {
      tellYear();
      [year, count] = [its, 0];
    }
    count += 1;
  }
  tellYear();
  const facets: Facets = {};
  const tell = (facet: FoundFacet, list: FacetCount[]): void => {
    const some = list.filter(({ count }) => count > 0);
    if (some.length === 0) return;
    const known = some.filter(({ value }) => value !== null);
    const order = NUMBERS.includes(facet)
      ? (a: FacetCount, b: FacetCount) => Number(b.value) - Number(a.value)
      : (a: FacetCount, b: FacetCount) => b.count - a.count || (String(a.value) < String(b.value) ? -1 : 1);
    // The most frequent are told, also of numbers.
    const most = [...known]
      .sort((a, b) => b.count - a.count)
      .slice(0, TOLD)
      .sort(order);
    facets[facet] = {
      counts: [...most, ...some.filter(({ value }) => value === null)],
      more: known.length - most.length,
    };
  };
  columns.forEach(({ fact, column }, i) =>
    tell(
      fact,
      column.values.map((value, code) => ({ value, count: counts[i]![code]! })),
    ),
  );
  tell(
    'year',
    [...ofYears].map(([value, count]) => ({ value, count })),
  );
  tellShoots(index, ofShoots, tell);
  tellSets(index, found, tell);
  return facets;
}

function countCodes(codes: Codes, numbers: Uint32Array, into: Uint32Array): void {
  for (let i = 0; i < numbers.length; i++) into[codes[numbers[i]!]!]! += 1;
}

function tellShoots(
  index: FindIndex,
  counts: Uint32Array,
  tell: (facet: FoundFacet, list: FacetCount[]) => void,
): void {
  const by = {
    shoot: new Map<string, number>(),
    client: new Map<string, number>(),
    place: new Map<string, number>(),
  };
  counts.forEach((count, code) => {
    const id = index.shootOf.values[code];
    const shoot = id === null || id === undefined || count === 0 ? null : index.shoot(id);
    if (!shoot) return;
    const add = (map: Map<string, number>, value: string) =>
      value !== '' && map.set(value, (map.get(value) ?? 0) + count);
    add(by.shoot, shoot.title);
    add(by.client, shoot.client);
    add(by.place, shoot.place);
  });
  for (const [facet, map] of Object.entries(by))
    tell(
      facet as FoundFacet,
      [...map].map(([value, count]) => ({ value, count })),
    );
}

function tellSets(
  index: FindIndex,
  found: Bits,
  tell: (facet: FoundFacet, list: FacetCount[]) => void,
): void {
  const counted = index.words.countsIn(found, index.valueIds);
  for (const set of Object.keys(SETS) as SetName[])
    tell(
      set,
      index.valuesOf(set).map(({ id, value }) => ({ value, count: counted.get(id) ?? 0 })),
    );
}
