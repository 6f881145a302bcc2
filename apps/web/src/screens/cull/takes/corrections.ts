import {
  bodyBefore,
  correctionOf,
  correctionText,
  TAKE_KIND_WORDS,
  type Correction,
  type MarkValue,
  type Take,
  type TakeKind,
} from '@arkiv/core';
import { many } from '../../../data/format';
import type { LoadedFrame } from '../../../data/frames';
import type { Takes } from './takes';

/** What somebody says of takes. */
export type TakeDeed =
  | { deed: 'split' | 'join' | 'out' | 'together' | 'lead' | 'machine' }
  | { deed: 'kind'; kind: TakeKind }
  | { deed: 'to'; id: string };

/** What it changes, and what is said of it; no changes: why there are none. */
export interface Corrected {
  changes: { id: string; field: 'take'; to: MarkValue }[];
  words: string;
}

interface Asked {
  takes: Takes;
  /** in order of time */
  frames: readonly LoadedFrame[];
  byId: Pick<ReadonlyMap<string, LoadedFrame>, 'get'>;
  current: string;
  /** what is selected, or the current frame alone; in order of picking */
  targets: readonly string[];
}

/** The changes that say so. No file is touched, and nothing that was marked. */
export function corrected(asked: TakeDeed, on: Asked): Corrected {
  const { takes, current, targets } = on;
  const take = takes.with(current);
  if (!take) return nothing('');
  switch (asked.deed) {
    case 'split':
      if (take.ids[0] === current) return nothing('A take begins here already');
      return { changes: said([current], { place: 'cut' }, on), words: 'A new take begins here' };
    case 'join':
      return join(take, on);
    case 'out':
      return {
        changes: targets.flatMap((id) => said([id], { place: { with: id } }, on)),
        words: `${many(targets.length, 'frame stands', 'frames stand')} alone`,
      };
    case 'together':
      return together(on);
    case 'to':
      return toTakeOf(asked.id, on);
    case 'lead':
      return {
        changes: [
          ...said(
            take.ids.filter((id) => id !== current),
            { lead: false },
            on,
          ),
          ...said([current], { lead: true }, on),
        ],
        words: 'This frame stands for its take',
      };
    case 'kind':
      if (take.ids.length < 2) return nothing('A frame alone has no kind');
      return {
        changes: [
          ...said(take.ids.slice(1), { kind: null }, on),
          ...said([take.ids[0]!], { kind: asked.kind }, on),
        ],
        words: `The take is called ${TAKE_KIND_WORDS[asked.kind]}`,
      };
    case 'machine':
      return {
        changes: said(take.ids, { place: null, lead: false, kind: null }, on),
        words: 'Nothing is corrected in this take any more',
      };
  }
}

const nothing = (words: string): Corrected => ({ changes: [], words });

/** With the take that its body shot before it; where there is none, with the one that stands before it. */
function join(take: Take, on: Asked): Corrected {
  const first = take.ids[0]!;
  const last = bodyBefore(on.takes.of, first);
  const before = last === null ? on.takes.before(on.current) : on.takes.with(last);
  if (!before) return nothing('There is no take before this one');
  const words = `Joined with the take before: ${many(before.ids.length + take.ids.length, 'frame')}`;
  // Within a body one word is enough, and the rest follows.
  if (last !== null) return { changes: said([first], { place: 'join' }, on), words };
  return { changes: said(take.ids, { place: { with: before.ids[0]! } }, on), words };
}

function together({ targets, ...on }: Asked): Corrected {
  if (targets.length < 2) return nothing('Select the frames that belong together');
  const takes = targets.map((id) => on.takes.with(id));
  // They go where the first of them is: what belongs to it already stays as it is.
  const first = on.frames.find(({ id }) => targets.includes(id))!.id;
  const home = on.takes.with(first);
  const others = targets.filter((_, i) => takes[i] !== home);
  if (others.length === 0) return nothing('They are one take already');
  return {
    changes: said(others, { place: { with: first } }, on),
    words: `${many(targets.length, 'frame')} belong together`,
  };
}

/** Into the take of another frame; what belongs to it already stays as it is. */
function toTakeOf(id: string, { targets, ...on }: Asked): Corrected {
  const home = on.takes.with(id);
  const others = targets.filter((target) => on.takes.with(target) !== home);
  if (!home || others.length === 0) return nothing('They are one take already');
  // Its first one stays where it is, unless it is what goes.
  const first = home.ids.find((its) => !targets.includes(its)) ?? id;
  return {
    changes: said(others, { place: { with: first } }, on),
    words: `${many(others.length, 'frame goes', 'frames go')} to another take`,
  };
}

/** What is said of frames beside what was said of them already. */
export function said(
  ids: readonly string[],
  change: Partial<Correction>,
  { byId }: Pick<Asked, 'byId'>,
): Corrected['changes'] {
  return ids.flatMap((id) => {
    const frame = byId.get(id);
    if (!frame) return [];
    return [{ id, field: 'take' as const, to: correctionText({ ...correctionOf(frame.take), ...change }) }];
  });
}
