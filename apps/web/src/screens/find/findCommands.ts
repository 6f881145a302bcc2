import { deedOf, pileKind, pilesOf, type MarkKind, type MarkValue } from '@arkiv/core';
import { albumChanges, albumWords, type AlbumChoice } from '../../data/albums';
import type { LoadedFrame } from '../../data/frames';
import { many } from '../../data/format';
import type { Step } from '../../data/shootStore';
import type { CullCommand } from '../../keys/actions';
import { standForShoot } from '../../data/shootLeads';
import { openBookmarks } from '../../parts/bookmarks';
import { CELLS } from '../cull/cullState';
import { markWords, stepWords } from '../cull/cullWords';
import { arrangeBy, outOfAlbum } from './arranging';
import { targetsOf, type FindSeen } from './findSeen';

async function mark(
  changesOf: (frame: LoadedFrame) => { field: MarkKind; to: MarkValue }[],
  words: string,
  seen: FindSeen,
): Promise<void> {
  const targets = targetsOf(seen);
  const frames = (await seen.loaded(targets)).filter(({ binned }) => binned !== 1);
  if (frames.length === 0)
    return seen.say(targets.length === 0 ? '' : 'It lies in the bin: bring it back first');
  const operations = seen.store.markEach(
    frames.flatMap((frame) => changesOf(frame).map((change) => ({ id: frame.id, ...change }))),
  );
  if (frames.length > 1) {
    const changed = new Set(operations.map(({ subject }) => subject)).size;
    seen.say(`${many(changed, 'frame')} changed: ${words}`);
  } else seen.say('');
}

async function takeBack(step: Promise<Step | null>, what: 'undo' | 'redo', { say }: FindSeen): Promise<void> {
  try {
    const done = await step;
    // Here frames are of any shoot.
    say(
      done
        ? stepWords({ ...done, elsewhere: 0 }, what)
        : what === 'undo'
          ? 'Nothing to take back'
          : 'Nothing to do again',
    );
  } catch (error) {
    say((error as Error).message);
  }
}

/** Puts what is marked into an album; where all of it is in there already, takes it out. */
export async function intoAlbum({ id: album, name }: AlbumChoice, seen: FindSeen, out = true): Promise<void> {
  const frames = await seen.loaded(targetsOf(seen));
  const { changes, into } = albumChanges(album, frames, Date.now(), out);
  const operations = seen.store.markEach(changes);
  seen.say(albumWords(operations.length, into, name));
}

/** Does what a key says; false: it means nothing here. */
export function runFind(command: CullCommand, seen: FindSeen): boolean {
  const { list, at, current, go } = seen;
  const layout = seen.layout.current;
  const step = (by: number): void => go(list.step(at, by));
  switch (command.do) {
    case 'step':
      step(command.by);
      return true;
    case 'row':
      step(command.by * layout.across);
      return true;
    case 'page':
      step(command.by * layout.across * layout.rows);
      return true;
    case 'end':
      step(command.to === 'first' ? -list.count : list.count);
      return true;
    case 'extend':
    case 'walk': {
      const next = list.step(at, command.by * (command.row ? layout.across : 1));
      const ids = [list.key(at), list.key(next)].filter(
        (id): id is string => id !== undefined && !id.startsWith('#'),
      );
      if (command.do === 'extend') seen.select(new Set([...seen.selection, ...ids]));
      go(next);
      return true;
    }
    case 'selectToggle': {
      if (!current) return true;
      const next = new Set(seen.selection);
      if (!next.delete(current.id)) next.add(current.id);
      seen.select(next);
      return true;
    }
    case 'selectAll':
      void seen.allIds().then((ids) => {
        seen.select(new Set(ids));
        seen.say(`${many(ids.length, 'frame')} selected`);
      });
      return true;
    case 'selectNone':
      seen.select(new Set());
      seen.say('');
      return true;
    case 'verdict': {
      const deed = ({ keep: 'keep', reject: 'reject', undecided: 'undecide' } as const)[command.to];
      void mark((frame) => deedOf(seen.rules, deed, frame), command.to, seen);
      return true;
    }
    case 'stars':
    case 'label': {
      const { to } = command;
      void mark(() => [{ field: command.do, to }], markWords(command.do, to), seen);
      return true;
    }
    case 'pile': {
      const { pile } = seen;
      if (!pile) {
        seen.say('No pile is chosen yet: it is chosen in Cull');
        return true;
      }
      void seen.loaded(targetsOf(seen)).then((frames) => {
        const to = !frames.every((frame) => pilesOf(frame).includes(pile.id));
        return mark(
          () => [{ field: pileKind(pile.id), to }],
          `${to ? 'into' : 'out of'} “${pile.name}”`,
          seen,
        );
      });
      return true;
    }
    case 'album':
      if (seen.album) void intoAlbum(seen.album, seen);
      else seen.toggle('albumLine');
      return true;
    case 'albumLine':
      seen.toggle('albumLine');
      return true;
    case 'arranging':
    case 'where':
      seen.toggle(command.do);
      return true;
    case 'drop':
      void outOfAlbum(seen);
      return true;
    case 'arrange':
      void arrangeBy(command.by, seen);
      return true;
    case 'take':
      if (command.deed !== 'lead' || !seen.within) break;
      if (current) seen.within.lead(current);
      return true;
    case 'shootLead':
      void seen
        .loaded(targetsOf(seen))
        .then((frames) => standForShoot(frames))
        .then(seen.say);
      return true;
    case 'folderLead':
      seen.say('In its shoot a frame stands for its folder');
      return true;
    case 'bookmarks':
      openBookmarks();
      return true;
    case 'undo':
      void takeBack(seen.store.undo(), 'undo', seen);
      return true;
    case 'redo':
      void takeBack(seen.store.redo(), 'redo', seen);
      return true;
    case 'view':
      if (command.to !== 'sheet') seen.open('single');
      return true;
    case 'zoom':
      seen.open('single');
      return true;
    case 'size': {
      const next = CELLS.indexOf(seen.cell as (typeof CELLS)[number]) + command.by;
      seen.setCell(CELLS[Math.max(0, Math.min(CELLS.length - 1, next))]!);
      return true;
    }
    case 'filter':
    case 'find':
      seen.toLine();
      return true;
    case 'showAll':
      seen.clear();
      return true;
    case 'drawer':
    case 'keys':
    case 'fold':
      seen.toggle(command.do);
      return true;
    case 'foldHeading':
      seen.foldAt(at);
      return true;
    case 'inShoot':
    case 'similar':
    case 'nearTime':
      if (current) seen[command.do](current);
      return true;
    default:
  }
  seen.say('That is a key of Cull: Enter opens what was found there');
  return false;
}
