import { Box, Button, Dialog } from '@mui/material';
import type { KeyboardEvent } from 'react';
import { cameByKeys } from '../../keys/ownKeys';
import { CAPTION, GROUND, INK } from '../../theme/theme';

interface Props {
  /** null: this file has no picture */
  src: string | null | undefined;
  name: string;
  words: string;
  /** taken in, or left on the card; null while that cannot be chosen yet */
  taken: boolean | null;
  onToggle: () => void;
  onStep: (by: 1 | -1) => void;
  onClose: () => void;
}

/** One frame of a card, large, as the camera's own picture shows it. */
export function CardLoupe({ src, name, words, taken, onToggle, onStep, onClose }: Props) {
  const onKeyDown = (event: KeyboardEvent) => {
    const target = event.target as Element;
    // A button that was come to by keys keeps those that press it.
    if ((event.key === ' ' || event.key === 'Enter') && target.closest('button') && cameByKeys(target))
      return;
    if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') onStep(event.key === 'ArrowRight' ? 1 : -1);
    else if (event.key === ' ' && !event.repeat) onToggle();
    else if (event.key === 'Enter') onClose();
    else return;
    event.preventDefault();
  };
  return (
    <Dialog
      open
      fullScreen
      onClose={onClose}
      onKeyDown={onKeyDown}
      transitionDuration={0}
      slotProps={{
        paper: {
          'aria-label': `Frame ${name}, large`,
          sx: {
            bgcolor: GROUND.deep,
            border: 0,
            display: 'grid',
            gridTemplateRows: 'minmax(0, 1fr) auto',
          },
        },
      }}
    >
      <Box sx={{ display: 'grid', placeItems: 'center', minHeight: 0 }}>
        {src ? (
          <Box
            component="img"
            key={src}
            src={src}
            alt={`Frame ${name}`}
            sx={{ width: '100%', height: '100%', minHeight: 0, objectFit: 'contain' }}
          />
        ) : (
          <Box sx={{ color: INK.soft }}>This file has no picture. It is copied like all others.</Box>
        )}
      </Box>
      <Box
        sx={{
          ...CAPTION,
          display: 'flex',
          flexWrap: 'wrap',
          alignItems: 'center',
          gap: 1.5,
          px: 2,
          py: 0.75,
          fontSize: 14,
          color: INK.soft,
          borderTop: `1px solid ${GROUND.line}`,
        }}
      >
        <Box component="span" sx={{ color: INK.full, fontWeight: 700 }}>
          {name}
        </Box>
        <Box component="span">{words}</Box>
        <Box component="span" role="status" sx={{ color: INK.full }}>
          {taken === null ? '' : taken ? 'taken in' : 'left on the card'}
        </Box>
        <Box sx={{ flex: 1 }} />
        <Button size="small" color="inherit" onClick={() => onStep(-1)}>
          ← Previous
        </Button>
        <Button size="small" color="inherit" onClick={() => onStep(1)}>
          Next →
        </Button>
        {taken !== null && (
          <Button size="small" variant="outlined" color="inherit" onClick={onToggle}>
            {taken ? 'Leave out' : 'Take in'} · Space
          </Button>
        )}
        <Button size="small" variant="outlined" color="inherit" onClick={onClose}>
          Close · Esc
        </Button>
      </Box>
    </Dialog>
  );
}
