import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { bytes, many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

export const ROLE_WORDS = { working: 'first copies', backup: 'second copies', edit: 'for editing' } as const;

/** A drive: whether it is there, its room, and which files lie nowhere else. */
export function DriveRow({ volume }: { volume: Api['VolumeDto'] }) {
  const { free, total } = volume;
  const [error, setError] = useState<unknown>(null);
  const begin = (where: string) =>
    void post(where, { volumeId: volume.id }).then(() => setError(null), setError);
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
          <Box sx={{ ...CAPTION, color: volume.nearlyFull ? STRIKE_TEXT : INK.soft }}>
            {free === 0
              ? 'full: nothing can be written to it'
              : `${bytes(free ?? 0)} free of ${bytes(total ?? 0)}${volume.nearlyFull ? ', nearly full' : ''}`}
          </Box>
          {volume.readOnly && (
            <Box sx={{ color: STRIKE_TEXT }}>
              It can only be read: check its lock or its rights. Nothing is written to it.
            </Box>
          )}
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
      {volume.damaged > 0 && (
        <Box sx={{ color: STRIKE_TEXT }}>
          {many(volume.damaged, 'copy', 'copies')} on it {volume.damaged === 1 ? 'is' : 'are'} damaged or
          missing.
        </Box>
      )}
      {volume.online && (volume.files > 0 || volume.damaged > 0) && (
        <Box sx={{ ml: -1 }}>
          <Button
            size="small"
            color="inherit"
            sx={{ px: 1, minWidth: 0 }}
            aria-label={`Verify ${volume.name} again`}
            onClick={() => begin('/copies/verifications')}
          >
            Verify again
          </Button>
          {(volume.damaged > 0 || volume.onlyHere > 0) && (
            <Button
              size="small"
              color="inherit"
              sx={{ px: 1, minWidth: 0 }}
              aria-label={`Copy what is missing of ${volume.name} now`}
              onClick={() => begin('/copies/missing')}
            >
              Copy now
            </Button>
          )}
        </Box>
      )}
      <Problem error={error} />
    </Box>
  );
}
