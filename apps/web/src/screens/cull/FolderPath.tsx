import { Box } from '@mui/material';
import { memo, useMemo } from 'react';
import { useShoot } from '../../data/live';
import { useOfOrder } from '../../data/ofOrder';
import type { ShootState } from '../../data/shootStore';
import { FolderWalk } from '../../parts/FolderWalk';
import { GROUND } from '../../theme/theme';
import { folderLine, foldersIn, picturesOf, shownFolder, type FrameFolder } from './folders';

interface Props {
  shootId: string;
  shoot: ShootState;
  /** the line by which frames are shown now */
  line: string;
  onLine: (line: string) => void;
}

/** The folders of a shoot that has several: where one is, what is below it, and the way back up. Nothing while there is one. */
export const FolderPath = memo(function FolderPath({ shootId, shoot, line, onLine }: Props) {
  const places = useOfOrder(shoot, liesOf);
  const folders = useMemo(() => foldersIn(places), [places]);
  if (folders.length < 2) return null;
  return <Path {...{ shootId, shoot, line, onLine, folders }} />;
});

function Path({ shootId, shoot, line, onLine, folders }: Props & { folders: readonly FrameFolder[] }) {
  const { data } = useShoot(shootId);
  const chosen = data?.folderLeads;
  const { frames } = shoot;
  // What stands for a folder goes by marks; it does not follow each of them.
  const pictures = useMemo(() => picturesOf(frames, folders, chosen ?? []), [folders, chosen]); // eslint-disable-line react-hooks/exhaustive-deps
  const here = shownFolder(line, folders);
  const at = folders.find(({ path }) => path === here.path) ?? folders[0]!;
  const path = folders.filter(
    (one) => at.path === one.path || at.path.startsWith(`${one.path}/`) || one.path === '',
  );
  const below = folders.filter((one) => one.parent === at.path && one.path !== at.path);
  return (
    <Box sx={{ borderBottom: `1px solid ${GROUND.line}` }}>
      <FolderWalk
        around={path}
        within={below.map((one) => ({ ...one, picture: pictures.get(one.path) }))}
        below={
          below.length > 0 && (at.own > 0 || !here.below)
            ? {
                shown: here.below,
                onChange: (shown) => onLine(folderLine(line, at.path, folders, shown)),
              }
            : null
        }
        onGo={(to) => onLine(folderLine(line, to, folders))}
      />
    </Box>
  );
}

const liesOf = (frames: ShootState['frames']): string[] => frames.map(({ lies }) => lies ?? '');
