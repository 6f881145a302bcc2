/** Where marks were made: the frame, and what was selected. */
export interface Place {
  current: string | null;
  selection: readonly string[];
}

/** Steps whose place is carried over a reload: more than anybody takes back one by one. */
const CARRIED = 500;

const placesKey = (shootId: string) => `arkiv.places.${shootId}`;

/** By group of the history; what the journal keeps is everybody's, where it was made belongs to this window. */
export function keptPlaces(shootId: string): Map<string, Place> {
  try {
    return new Map(JSON.parse(sessionStorage.getItem(placesKey(shootId)) ?? '[]') as [string, Place][]);
  } catch {
    return new Map();
  }
}

export function keepPlaces(shootId: string, places: ReadonlyMap<string, Place>): void {
  try {
    sessionStorage.setItem(placesKey(shootId), JSON.stringify([...places].slice(-CARRIED)));
  } catch {
    // No room: a step back then shows no place.
    sessionStorage.removeItem(placesKey(shootId));
  }
}
