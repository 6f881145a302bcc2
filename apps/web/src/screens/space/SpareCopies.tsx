import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { shownName } from '@arkiv/core';
import { bytes, count, many, mediumDay } from '../../data/format';
import type { Api } from '../../data/http';
import { jobEnd } from '../../data/jobEnd';
import { TakeOff } from '../../parts/TakeOff';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK } from '../../theme/theme';

/** Shoots that have more copies than are wanted: each is taken off a drive by itself, with proof of the others. */
export function SpareCopies({ space, onDone }: { space: Api['SpaceDto']; onDone: () => void }) {
  const [taken, setTaken] = useState<string | null>(null);
  const { spare, spareBytes, spareCount, required } = space;
  return (
    <Box
      role="group"
      aria-label="More copies than wanted"
      sx={{ py: 1.5, borderTop: `1px solid ${GROUND.raised}` }}
    >
      <Box sx={{ fontWeight: 560 }}>More copies than wanted</Box>
      <Box sx={{ color: INK.soft, mb: 0.5 }}>
        {spareCount === 0
          ? `No file has more than the ${many(required, 'copy', 'copies')} on as many disks that the studio wants.`
          : `${many(spareCount, 'shoot has', 'shoots have')} files with more than ${many(required, 'copy', 'copies')} on as many disks: ${bytes(spareBytes)} would be free if one copy of each were taken off. Before anything is deleted there, the others are read again.`}{' '}
        <TextLink to="/studio#drives">Copies that are wanted</TextLink>
      </Box>
      {spare.map(({ id, title, date, volumeId, volume, online, files, bytes: size }) => (
        <Box key={id} sx={{ py: 0.5 }}>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 2 }}>
            <Box sx={{ flex: '1 1 300px', minWidth: 0, overflowWrap: 'anywhere' }}>
              <TextLink to={`/shoots/${id}/files`}>{shownName(title)}</TextLink>{' '}
              <Box component="span" sx={{ ...CAPTION, color: INK.soft }}>
                {mediumDay(date)} · {many(files, 'file')} on “{shownName(volume)}” · {bytes(size)}
              </Box>
            </Box>
            {online ? (
              <Button
                size="small"
                color="inherit"
                aria-expanded={taken === id}
                onClick={() => setTaken(taken === id ? null : id)}
              >
                Take it off “{shownName(volume)}” …
              </Button>
            ) : (
              <Box sx={{ color: INK.soft }}>“{shownName(volume)}” is not connected</Box>
            )}
          </Box>
          {taken === id && (
            <TakeOff
              shootId={id}
              drive={{ id: volumeId, name: volume }}
              onEnd={(jobId) => {
                setTaken(null);
                // What it could not take off is offered again, with the reason in its report.
                if (jobId !== undefined)
                  void jobEnd(jobId)
                    .catch(() => undefined)
                    .then(onDone);
              }}
            />
          )}
        </Box>
      ))}
      {spare.length < spareCount && (
        <Box sx={{ color: INK.soft }}>
          and {count(spareCount - spare.length)} smaller ones, which show when these are done
        </Box>
      )}
    </Box>
  );
}
