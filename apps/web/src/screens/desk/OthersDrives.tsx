import { Box } from '@mui/material';
import { shownName } from '@arkiv/core';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { CAPTION, INK } from '../../theme/theme';

/** Drives of another archive from which shoots came: known for the copies on them, and of no business here. */
export function OthersDrives({
  volumes,
}: {
  volumes: readonly Pick<Api['VolumeDto'], 'id' | 'name' | 'heldBy' | 'files'>[];
}) {
  if (volumes.length === 0) return null;
  return (
    <Box component="ul" aria-label="Drives of other archives" sx={{ m: 0, p: 0, py: 1, listStyle: 'none' }}>
      {volumes.map(({ id, name, heldBy, files }) => (
        <Box component="li" key={id} sx={{ ...CAPTION, color: INK.soft }}>
          {shownName(name)} of “{shownName(heldBy ?? '')}”: {many(files, 'file')} of shoots that came from
          there
        </Box>
      ))}
    </Box>
  );
}
