import { many, mediumDay } from '../../data/format';
import type { Api } from '../../data/http';

/** What has to be known of a frame by whoever decides which of several is wanted: its time, and what was done with it. */
export function usesOf(
  frame: Api['DuplicateFrameDto'] | Api['VariantFrameDto'],
  piles: readonly { id: string; name: string }[],
): string[] {
  const { time, handedOff, delivered } = frame;
  return [
    time === null ? 'no capture time' : `${mediumDay(time.slice(0, 10))}, ${time.slice(11, 19)}`,
    ...frame.piles.flatMap((id) => {
      const name = piles.find((pile) => pile.id === id)?.name;
      return name === undefined ? [] : [`in “${name}”`];
    }),
    ...(handedOff > 0 ? [`handed off ${times(handedOff)}`] : []),
    ...(delivered > 0 ? [`delivered ${times(delivered)}`] : []),
    ...(frame.note === null ? [] : ['with a note']),
    many(frame.files, 'file'),
  ];
}

const times = (count: number): string => (count === 1 ? 'once' : `${count} times`);
