import type { AlbumChoice } from '../../data/albums';
import type { KeeperRules, NamedFinish } from '@arkiv/core';
import type { Dispatch } from 'react';
import type { NextPart } from '../../data/passParts';
import type { FindQuestion } from '../../data/findQuestion';
import type { ShootState, ShootStore } from '../../data/shootStore';
import type { PileChoice } from './cullFilter';
import type { CullAction, CullState, Layout } from './cullState';
import type { Finishing } from './finish/finishing';
import type { Looking } from './looking';
import type { Shown } from './shown';
import type { Takes } from './takes/takes';
import type { ClockOffer } from './takes/useClocks';

/** What Cull says of what was done. */
export interface Notices {
  notice: string;
  /** said of a mark on several frames, with the way back, until something else is marked */
  offer: string;
  say: (words: string) => void;
  offerBack: (words: string) => void;
  endOffer: () => void;
}

/** What a command works on. */
export interface Seen {
  store: ShootStore;
  shoot: ShootState;
  rules: KeeperRules;
  state: CullState;
  dispatch: Dispatch<CullAction>;
  shown: Shown;
  takes: Takes;
  current: string | null;
  at: number;
  selected: readonly string[];
  notices: Notices;
  looking: Looking;
  layout: { current: { across: number; rows: number } };
  goTo: (where: 'handoff' | 'nextShoot' | 'pile' | 'shoot' | 'history' | 'frameHistory') => void;
  /** opens the message beside which frames go out */
  mail: (ids: readonly string[]) => void;
  /** looks for something in the whole archive */
  find: (question: Partial<FindQuestion>) => void;
  /** the frames are of several shoots: what was found in the archive */
  found: boolean;
  /** frames that were seen, which a pass counts */
  see: (ids: readonly string[]) => void;
  /** in a pass: whether a frame of it was seen, how it is stopped, where it goes on; null: there is none */
  pass: { isSeen: (id: string) => boolean; stop: () => void; next: () => NextPart | null } | null;
  /** the clock that seems to be off; null: none */
  clock: ClockOffer | null;
  /** the first key of an action, as it is read */
  keyOf: (action: string) => string;
  /** the pile that frames go into; null: none is chosen yet */
  pile: PileChoice | null;
  album: AlbumChoice | null;
  /** of the store’s shoot; of found frames each names its own */
  shootId: string;
  /** what is being changed of how frames look */
  finishing: Finishing;
  finishes: readonly NamedFinish[];
  /** as the studio keeps them */
  layouts: readonly { name: string; value: Partial<Layout> }[];
}

/** What a mark goes to: what is selected, or the current frame. */
export const targetsOf = ({ selected, current }: Seen): readonly string[] =>
  selected.length > 0 ? selected : current === null ? [] : [current];
