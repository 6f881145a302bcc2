import { Box, Button } from '@mui/material';
import type { ReactNode } from 'react';
import { CAPTION, GROUND, INK } from '../../theme/theme';

interface Props {
  words: string;
  note?: string;
  /** a field to type in */
  input?: ReactNode;
  actions?: readonly { words: string; keys: string; run: () => void }[];
  onEnd?: () => void;
}

/** A line over the caption that stands until it is answered. */
export function Line({ words, note, input, actions = [], onEnd }: Props) {
  return (
    <Box
      role="status"
      sx={{
        ...CAPTION,
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        minHeight: 34,
        px: 2,
        bgcolor: GROUND.raised,
        borderTop: `1px solid ${GROUND.line}`,
        color: INK.full,
        fontSize: 14,
        '& input': {
          font: 'inherit',
          color: INK.full,
          bgcolor: GROUND.deep,
          border: `1px solid ${GROUND.line}`,
          px: 1,
          py: 0.25,
          width: 220,
        },
      }}
    >
      <Box component="span">{words}</Box>
      {input}
      {note && (
        <Box component="span" sx={{ color: INK.soft }}>
          {note}
        </Box>
      )}
      {actions.map((action) => (
        <Button
          key={action.words}
          size="small"
          variant="outlined"
          color="inherit"
          sx={{ px: 1, py: 0 }}
          onClick={action.run}
        >
          {action.words}
          {action.keys !== '' && (
            <Box component="kbd" sx={{ ...CAPTION, color: INK.soft, ml: 1 }}>
              {action.keys}
            </Box>
          )}
        </Button>
      ))}
      <Box sx={{ flex: 1 }} />
      {onEnd && (
        <Button size="small" color="inherit" sx={{ px: 1, py: 0 }} onClick={onEnd}>
          Leave it so
        </Button>
      )}
    </Box>
  );
}
