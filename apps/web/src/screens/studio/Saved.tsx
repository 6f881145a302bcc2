import { Box, Button } from '@mui/material';
import type { ReactNode } from 'react';
import { CAPTION, GROUND, INK } from '../../theme/theme';

interface Props {
  name: string;
  /** what it comes to, by an example */
  example: ReactNode;
  isDefault: boolean;
  onOpen: () => void;
  /** null: it is the default already */
  onDefault: (() => void) | null;
  onRemove: (() => void) | null;
}

/** A saved plan or template: opened, made the default, or taken off the list. */
export function Saved({ name, example, isDefault, onOpen, onDefault, onRemove }: Props) {
  return (
    <Box
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'baseline',
        gap: 1.5,
        py: 1,
        borderBottom: `1px solid ${GROUND.raised}`,
      }}
    >
      <Box sx={{ flex: '1 1 380px', minWidth: 0 }}>
        <Box sx={{ fontWeight: 640 }}>
          {name}
          {isDefault && (
            <Box component="span" sx={{ ...CAPTION, color: INK.soft, ml: 1.5, fontWeight: 480 }}>
              chosen at first for each card
            </Box>
          )}
        </Box>
        <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>{example}</Box>
      </Box>
      <Button size="small" color="inherit" onClick={onOpen} aria-label={`Open …: ${name}`}>
        Open …
      </Button>
      <Button
        size="small"
        color="inherit"
        disabled={onDefault === null}
        onClick={() => onDefault?.()}
        aria-label={`Choose at first: ${name}`}
      >
        Choose at first
      </Button>
      <Button
        size="small"
        color="inherit"
        disabled={onRemove === null}
        onClick={() => onRemove?.()}
        aria-label={`Remove: ${name}`}
      >
        Remove
      </Button>
    </Box>
  );
}
