import { Box, Button, Chip } from '@mui/material';
import { memo } from 'react';
import { count } from '../../data/format';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { NO_FILTER, type CullFilter } from './cullFilter';

interface Props {
  chips: readonly { words: string; rest: CullFilter }[];
  /** frames that the filter hides */
  hidden: number;
  all: number;
  onFilter: (filter: CullFilter) => void;
}

/** What hides frames, always in sight while something does: each part can be taken away. Nothing while all are shown. */
export const FilterLine = memo(function FilterLine({ chips, hidden, all, onFilter }: Props) {
  return (
    <Box component="section" aria-label="What hides frames" sx={{ minWidth: 0 }}>
      {chips.length > 0 && all > 0 && (
        <Box
          sx={{
            ...CAPTION,
            display: 'flex',
            alignItems: 'center',
            flexWrap: 'wrap',
            gap: 1,
            minHeight: 32,
            px: 2,
            bgcolor: GROUND.base,
            borderBottom: `1px solid ${GROUND.line}`,
            color: INK.soft,
          }}
        >
          <Box component="span">
            <Box component="span" sx={{ color: INK.full, fontWeight: 640 }}>
              {count(hidden)}
            </Box>{' '}
            of {count(all)} hidden; shown:
          </Box>
          {chips.map(({ words, rest }) => (
            <Chip
              key={words}
              label={words}
              size="small"
              variant="outlined"
              onDelete={() => onFilter(rest)}
              title={`Take “${words}” away`}
            />
          ))}
          <Button size="small" color="inherit" sx={{ px: 1, py: 0 }} onClick={() => onFilter(NO_FILTER)}>
            Show all
          </Button>
        </Box>
      )}
    </Box>
  );
});
