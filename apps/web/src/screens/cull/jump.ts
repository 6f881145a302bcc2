import { clockOf, numberOf, type LoadedFrame } from '../../data/frames';

type Sought = Pick<LoadedFrame, 'name' | 'time'>;

/**
 * Where what was typed leads among frames in their order; -1: nowhere. A number is a frame's number, the nearest one that
 * begins so if none is; with a colon it is a time of day, and the first frame at or after it; else the start of a name,
 * or any part of one. Of several the next after `from`, and then from the beginning.
 */
export function jumpTo(text: string, count: number, frame: (i: number) => Sought, from: number): number {
  const asked = text.trim().toLowerCase();
  if (asked === '' || count === 0) return -1;
  const clock = /^(\d{1,2})[:.h](\d{0,2})(?:[:.](\d{0,2}))?$/.exec(asked);
  if (clock) return atClock(clock, count, frame);
  const next = (is: (i: number) => boolean): number => {
    for (let step = 1; step <= count; step++) {
      const i = (from + step) % count;
      if (is(i)) return i;
    }
    return -1;
  };
  const name = (i: number) => frame(i).name.toLowerCase();
  const tries: ((i: number) => boolean)[] = [
    (i) => name(i).startsWith(asked),
    (i) => name(i).includes(asked),
  ];
  if (/^\d+$/.test(asked)) {
    tries.unshift(
      (i) => Number(numberOf(frame(i).name)) === Number(asked),
      (i) => numberOf(frame(i).name).replace(/^0+/, '').startsWith(asked.replace(/^0+/, '')),
    );
  }
  for (const is of tries) {
    const found = next(is);
    if (found >= 0) return found;
  }
  return -1;
}

/** The first frame at or after a time of day; after the last one of a day there is none, and the last is gone to. */
function atClock([, h, m, s]: RegExpExecArray, count: number, frame: (i: number) => Sought): number {
  const two = (part: string | undefined) => (part ?? '').padStart(2, '0').slice(-2) || '00';
  const wanted = `${two(h)}:${two(m)}:${two(s)}`;
  let last = -1;
  for (let i = 0; i < count; i++) {
    if (frame(i).time === null) continue;
    if (clockOf(frame(i)).slice(0, 8) >= wanted) return i;
    last = i;
  }
  return last;
}
