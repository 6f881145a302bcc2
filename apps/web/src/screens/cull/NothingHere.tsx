import { Box, Button, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useShoot } from '../../data/live';
import { TextLink } from '../../parts/TextLink';
import { INK } from '../../theme/theme';

/** The filter hides every frame. */
export function AllHidden({ words, count, onShow }: { words: string; count: number; onShow: () => void }) {
  return (
    <Box sx={{ height: '100%', display: 'grid', placeItems: 'center' }}>
      <Box sx={{ textAlign: 'center' }}>
        <Typography variant="h2" sx={{ mb: 2 }}>
          {words}
        </Typography>
        <Button variant="contained" onClick={onShow}>
          Show all {count}
        </Button>
        <Box sx={{ color: INK.faint, mt: 1 }}>Backspace does the same. No file was touched.</Box>
      </Box>
    </Box>
  );
}

/** The shoot has no frames: yet, or any more. */
export function NothingYet({ shootId }: { shootId: string }) {
  const mergedInto = useShoot(shootId).data?.mergedInto ?? null;
  const { data: other } = useShoot(mergedInto ?? undefined);
  if (mergedInto !== null)
    return (
      <Box sx={{ height: '100%', display: 'grid', placeItems: 'center' }}>
        <Box sx={{ textAlign: 'center' }}>
          <Typography variant="h2">This shoot has no frames any more.</Typography>
          <Box sx={{ color: INK.soft, mt: 1 }}>
            They are in{' '}
            <TextLink to={`/shoots/${mergedInto}/cull`}>
              {other ? shownName(other.title) : 'another shoot'}
            </TextLink>
            . Marks that were made here can still be taken back.
          </Box>
        </Box>
      </Box>
    );
  return (
    <Box sx={{ height: '100%', display: 'grid', placeItems: 'center' }}>
      <Box sx={{ textAlign: 'center' }}>
        <Typography variant="h2">No frame of this shoot is verified yet.</Typography>
        <Box sx={{ color: INK.soft, mt: 1 }}>
          Frames appear here one by one as their copies are proven. <TextLink to="/">To the Desk</TextLink>
        </Box>
      </Box>
    </Box>
  );
}
