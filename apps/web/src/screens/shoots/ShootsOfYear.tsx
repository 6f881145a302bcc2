import { Box, ButtonBase, Typography } from '@mui/material';
import { useId } from 'react';
import { GROUND, INK } from '../../theme/theme';
import type { YearMonth } from '../../parts/YearLine';
import { ShootList } from './ShootList';

interface Props {
  year: string;
  find: string;
  /** what stands beside the year: how much there is */
  aside: string;
  months: readonly YearMonth[];
  open: boolean;
  onOpen: (open: boolean) => void;
  /** the month that is to be gone to, YYYY-MM; null: none of this year */
  wanted: string | null;
  onThere: () => void;
}

/** The shoots of one year under its heading, which folds them away. */
export function ShootsOfYear({ year, find, aside, months, open, onOpen, wanted, onThere }: Props) {
  const id = useId();
  return (
    <Box component="section" aria-labelledby={id} sx={{ mb: open ? 4 : 1 }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          gap: 2,
          borderTop: `1px solid ${GROUND.line}`,
          pt: 0.5,
        }}
      >
        <Typography id={id} variant="h2" component="h2" sx={{ flex: 1 }}>
          <ButtonBase
            aria-expanded={open}
            onClick={() => onOpen(!open)}
            sx={{ font: 'inherit', width: '100%', justifyContent: 'flex-start', gap: 1, py: 0.5 }}
          >
            <Box component="span" aria-hidden sx={{ width: 12, color: INK.soft }}>
              {open ? '▾' : '▸'}
            </Box>
            {year}
          </ButtonBase>
        </Typography>
        <Box sx={{ color: INK.faint }}>{aside}</Box>
      </Box>
      {open && (
        <ShootList
          shown={{ year, ...(find === '' ? {} : { find }) }}
          months={months}
          wanted={wanted}
          onThere={onThere}
        />
      )}
    </Box>
  );
}
