import { LONGEST_NAME } from '@arkiv/core';
import type { AlbumChoice } from '../../../data/albums';
import { many } from '../../../data/format';
import { post } from '../../../data/http';
import { useAction } from '../../../parts/useAction';
import { IntoLine } from '../IntoLine';
import { albumFor } from './albumFor';

interface Props {
  albums: readonly AlbumChoice[];
  /** id of the album that frames go into by now */
  current: string | null;
  /** how many would be put in */
  frames: number;
  onPut: (album: AlbumChoice) => void;
  onEnd: () => void;
}

/** Puts frames into an album. */
export function AlbumLine({ albums, current, frames, onPut, onEnd }: Props) {
  const { run, error, busy } = useAction(async (name: string) => {
    onPut(await post('/albums', { name }));
    onEnd();
  });
  return (
    <IntoLine
      words="Into the album"
      label="Into the album: its name"
      choices={albums}
      current={current}
      meant={albumFor}
      note={(found, name) =>
        name === ''
          ? albums.length > 0
            ? 'its name; a new name makes a new album'
            : 'a name makes the first album'
          : found
            ? `Enter puts ${many(frames, 'frame')} into “${found.name}”`
            : `Enter makes the album “${name}” and puts ${many(frames, 'frame')} in`
      }
      onPut={onPut}
      onNew={run}
      busy={busy}
      error={error}
      longest={LONGEST_NAME}
      onEnd={onEnd}
    />
  );
}
