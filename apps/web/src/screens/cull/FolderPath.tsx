import { Box } from '@mui/material';
import { memo, useMemo } from 'react';
import { count } from '../../data/format';
import { previewUrl } from '../../data/frames';
import { useShoot } from '../../data/live';
import { useOfOrder } from '../../data/ofOrder';
import type { ShootState } from '../../data/shootStore';
import { CAPTION, GROUND, INK } from '../../theme/theme';
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
  const go = (to: string): void => onLine(folderLine(line, to, folders));
  return (
    <Box
      component="nav"
      aria-label="Folders"
      sx={{
        ...CAPTION,
        ...{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 1.5, rowGap: 0.5 },
        ...{ px: 2, py: 0.5, minHeight: 30 },
        ...{ bgcolor: GROUND.base, borderBottom: `1px solid ${GROUND.line}`, color: INK.soft },
      }}
    >
      {path.map((one) => (
        <Step
          key={one.path}
          words={`${one.name} · ${count(one.frames)}`}
          here={one === at}
          onGo={() => go(one.path)}
        />
      ))}
      {below.length > 0 && (at.own > 0 || !here.below) && (
        <Box component="label" sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
          <input
            type="checkbox"
            checked={here.below}
            style={{ accentColor: INK.full, margin: 0, width: 15, height: 15 }}
            onChange={(event) => onLine(folderLine(line, at.path, folders, event.target.checked))}
          />
          with what lies below it
        </Box>
      )}
      {below.length > 0 && <span aria-hidden>›</span>}
      {below.map((one) => (
        <Step
          key={one.path}
          words={`${one.name} · ${count(one.frames)}`}
          picture={pictures.get(one.path)}
          here={false}
          onGo={() => go(one.path)}
        />
      ))}
    </Box>
  );
}

const liesOf = (frames: ShootState['frames']): string[] => frames.map(({ lies }) => lies ?? '');

function Step(props: { words: string; picture?: string; here: boolean; onGo: () => void }) {
  const { words, picture, here, onGo } = props;
  return (
    <Box
      component="button"
      type="button"
      aria-current={here ? 'location' : undefined}
      onClick={onGo}
      sx={{
        ...{ font: 'inherit', border: 0, p: 0, background: 'none', cursor: 'pointer' },
        ...{ display: 'flex', alignItems: 'center', gap: 0.75 },
        color: here ? INK.full : INK.soft,
        '&:hover': { color: INK.full, textDecoration: 'underline' },
      }}
    >
      {picture !== undefined && (
        <img
          src={previewUrl(picture, 'thumb')}
          alt=""
          width={42}
          height={28}
          style={{ objectFit: 'cover', background: GROUND.deep }}
        />
      )}
      {words}
    </Box>
  );
}
