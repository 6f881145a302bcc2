import type { KeeperRules } from '@arkiv/core';
import type { AlbumChoice } from '../../data/albums';
import type { LoadedFrame } from '../../data/frames';
import type { ShootStore } from '../../data/shootStore';
import type { FoundList } from './foundList';

/** What a key of Find works on. */
export interface FindSeen {
  store: ShootStore;
  rules: KeeperRules;
  list: FoundList;
  at: number;
  current: LoadedFrame | undefined;
  /** ids of what is selected */
  selection: ReadonlySet<string>;
  layout: { readonly current: { across: number; rows: number } };
  cell: number;
  pile: { id: string; name: string } | null;
  /** the album that frames go into */
  album: AlbumChoice | null;
  /** the album that is looked into, with how frames stand in it; null: none is */
  within: WithinAlbum | null;
  go: (at: number) => void;
  select: (ids: ReadonlySet<string>) => void;
  setCell: (cell: number) => void;
  say: (words: string) => void;
  /** frames by their ids, loaded where they are not yet */
  loaded: (ids: readonly string[]) => Promise<readonly LoadedFrame[]>;
  /** ids of all that was found */
  allIds: () => Promise<readonly string[]>;
  open: (view: 'single' | 'sheet') => void;
  toLine: () => void;
  inShoot: (frame: LoadedFrame) => void;
  similar: (frame: LoadedFrame) => void;
  nearTime: (frame: LoadedFrame) => void;
  toggle: (what: 'drawer' | 'keys' | 'fold' | 'albumLine' | 'arranging' | 'where') => void;
  /** folds the heading of an entry, or unfolds it */
  foldAt: (at: number) => void;
  clear: () => void;
}

/** An album that is looked into. */
export interface WithinAlbum {
  id: string;
  name: string;
  /** filled by a rule: nothing is put into it, taken out or arranged by hand */
  byRule: boolean;
  /** frames stand as they are arranged */
  arranged: boolean;
  /** the album of the heading under which an entry stands: its own, or one below it */
  albumAt: (at: number) => string | null;
  /** the frame at a place among what was found, loaded where it is not yet */
  frameAt: (at: number) => Promise<LoadedFrame | undefined>;
  /** the frame is to stand for the album */
  lead: (frame: LoadedFrame) => void;
}

/** The ids that a mark goes to: what is selected, or the frame one stands at. */
export const targetsOf = ({ selection, current }: Pick<FindSeen, 'selection' | 'current'>): string[] =>
  selection.size > 0 ? [...selection] : current ? [current.id] : [];
