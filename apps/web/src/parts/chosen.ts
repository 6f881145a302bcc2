/** What is chosen on a sheet of frames: the one that is stood at, and others besides. */
export interface Chosen {
  /** id of the frame that is stood at; null: the first */
  at: string | null;
  /** where a range begins */
  anchor: string | null;
  /** more than one; empty: the one that is stood at alone */
  ids: ReadonlySet<string>;
}

export const FIRST: Chosen = { at: null, anchor: null, ids: new Set() };

/** The frames of a sheet, in their order. */
export interface Order {
  readonly length: number;
  id(place: number): string | undefined;
  placeOf(id: string): number;
}

/** Where one stands in an order: a frame that is not shown any more is left for the first. */
export const placeOf = ({ at }: Chosen, order: Order): number =>
  Math.max(0, at === null ? 0 : order.placeOf(at));

/** The frames that are meant, in their order. */
export function meant(chosen: Chosen, order: Order): string[] {
  const here = [...chosen.ids].filter((id) => order.placeOf(id) >= 0);
  if (here.length === 0) return [order.id(placeOf(chosen, order))].flatMap((id) => id ?? []);
  return here.sort((a, b) => order.placeOf(a) - order.placeOf(b));
}

/** The frame that a click or a key chooses: alone, with all up to it, or besides the others. */
export function pick(chosen: Chosen, order: Order, id: string, how: 'only' | 'range' | 'toggle'): Chosen {
  if (how === 'only') return { at: id, anchor: id, ids: new Set() };
  if (how === 'toggle') {
    const ids = new Set(meant(chosen, order));
    if (!ids.delete(id)) ids.add(id);
    return { at: id, anchor: id, ids };
  }
  const anchor = chosen.anchor ?? order.id(placeOf(chosen, order)) ?? id;
  const [from, to] = [order.placeOf(anchor), order.placeOf(id)].sort((a, b) => a - b) as [number, number];
  const ids = new Set(Array.from({ length: to - from + 1 }, (_, i) => order.id(from + i)!));
  return { at: id, anchor, ids };
}

/** So many frames on, or back; `extend`: with all that lie between. */
export function step(chosen: Chosen, order: Order, by: number, extend: boolean): Chosen {
  const to = Math.max(0, Math.min(order.length - 1, placeOf(chosen, order) + by));
  const id = order.id(to);
  return id === undefined ? chosen : pick(chosen, order, id, extend ? 'range' : 'only');
}

export const all = (chosen: Chosen, order: Order): Chosen => ({
  ...chosen,
  ids: new Set(Array.from({ length: order.length }, (_, i) => order.id(i)!)),
});
