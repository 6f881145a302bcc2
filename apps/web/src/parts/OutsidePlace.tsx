import { Box, Typography } from '@mui/material';
import { useGet } from '../data/useGet';
import { INK, STRIKE_TEXT } from '../theme/theme';

/** Whether it is known where people outside come in: what stands below would move under a hand when that is said later. */
export function useOutsideKnown(): boolean {
  const { data, error } = useGet('/gallery-place');
  return data !== undefined || error !== undefined;
}

/** Says where people outside cannot reach what is made for them. `none`: that they do not; `only`: what this computer alone reaches. */
export function OutsidePlace({ none, only }: { none: string; only: string }) {
  const { data: place } = useGet('/gallery-place');
  if (place?.problem)
    return (
      <Typography sx={{ color: STRIKE_TEXT, mb: 1 }}>
        {none}: {place.problem}.
      </Typography>
    );
  if (!place || place.open) return null;
  return (
    <Box sx={{ color: INK.soft, mb: 1 }}>
      Only this computer reaches {only} so far: README, “Galleries for clients”, tells how others do.
    </Box>
  );
}
