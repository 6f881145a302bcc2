import { Box } from '@mui/material';
import { bytes, many } from '../../data/format';
import type { Api } from '../../data/http';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

export const ROLE_WORDS = { working: 'first copies', backup: 'second copies', edit: 'for editing' } as const;

/** Bytes: below this a drive is nearly full. One full 64 GB card no longer goes onto it. */
const NEARLY_FULL = 64e9;

/** A drive: whether it is there, its room, and which files lie nowhere else. */
export function DriveRow({ volume }: { volume: Api['VolumeDto'] }) {
  const { free, total } = volume;
  const used = free !== null && total ? 1 - free / total : 0;
  return (
    <Box sx={{ py: 1, borderBottom: `1px solid ${GROUND.raised}` }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Box sx={{ flex: 1, fontWeight: 560 }}>{volume.name}</Box>
        <Box sx={{ ...CAPTION, color: INK.faint }}>{ROLE_WORDS[volume.role]}</Box>
      </Box>
      {volume.online ? (
        <>
          <Box sx={{ height: 4, my: 0.75, bgcolor: GROUND.line }} aria-hidden>
            <Box sx={{ width: `${used * 100}%`, height: 4, bgcolor: INK.soft }} />
          </Box>
          <Box sx={{ ...CAPTION, color: free! < NEARLY_FULL ? STRIKE_TEXT : INK.soft }}>
            {free === 0
              ? 'full: nothing can be written to it'
              : `${bytes(free ?? 0)} free of ${bytes(total ?? 0)}${free! < NEARLY_FULL ? ', nearly full' : ''}`}
          </Box>
        </>
      ) : (
        <Box sx={{ color: STRIKE_TEXT }}>
          Not plugged in. Its frames can still be looked at and marked; nothing is written to it.
        </Box>
      )}
      {volume.files > 0 && (
        <Box sx={{ ...CAPTION, color: volume.onlyHere > 0 ? STRIKE_TEXT : INK.soft }}>
          {volume.onlyHere > 0
            ? `${many(volume.onlyHere, 'file lies', 'files lie')} nowhere else`
            : `${many(volume.files, 'file')}, each also on another drive`}
        </Box>
      )}
    </Box>
  );
}
