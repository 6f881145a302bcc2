import { Box, Button, Typography } from '@mui/material';
import { many, momentOf } from '../data/format';
import { post } from '../data/http';
import { useGet } from '../data/useGet';
import { GROUND, INK } from '../theme/theme';
import { Problem } from './Problem';
import { useAction } from './useAction';

const LIST = new Intl.ListFormat('en', { type: 'conjunction' });

/** Archives that the drives tell of, where this one holds nothing yet: each can be made anew here. */
export function FromDrives({ onBegun }: { onBegun?: () => Promise<void> }) {
  const { data: archives = [] } = useGet('/rebuild');
  const { data: carried = [] } = useGet('/carried');
  const making = useAction(async (archiveId: string) => {
    await post('/rebuild', { archiveId });
    await onBegun?.();
  });
  if (archives.length === 0) return null;
  return (
    <Box sx={{ borderLeft: `2px solid ${INK.soft}`, pl: 2, my: 1.5 }}>
      {archives.map(({ id, name, shoots, drives, newest }) => (
        <Box key={id} sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, mb: 1 }}>
          <Box sx={{ flex: '1 1 320px' }}>
            <Typography component="h3" sx={{ fontWeight: 600 }}>
              {name}
            </Typography>
            <Typography sx={{ color: INK.soft }}>
              {many(shoots, 'shoot')} on {LIST.format(drives.map((drive) => `“${drive}”`))}, written last on{' '}
              {momentOf(newest)}
            </Typography>
          </Box>
          <Button variant="contained" disabled={making.busy} onClick={() => making.run(id)}>
            Make this archive anew here
          </Button>
        </Box>
      ))}
      {carried.length > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          That is for when the computer of an archive is gone: this one becomes it. To have its shoots here
          beside others, take them in above.
        </Typography>
      )}
      <Typography variant="body2" sx={{ color: INK.soft, borderTop: `1px solid ${GROUND.line}`, pt: 1 }}>
        The drives are only read. Add all of its drives that are at hand first: where two tell otherwise, the
        newer counts. Not on them are passwords and who may sign in, and the way back from frames that were
        moved.
      </Typography>
      <Problem error={making.error} />
    </Box>
  );
}
