import { Box, ButtonBase, Typography } from '@mui/material';
import { useId, type ReactNode } from 'react';
import { GROUND, INK } from '../theme/theme';
import { useKeptState } from './useKeptState';

/** A part of a screen under a ruled heading; one that is rarely used is folded, and opens by its heading. */
export function Section({
  title,
  aside,
  folded,
  children,
}: {
  title: string;
  aside?: ReactNode;
  /** the name under which it is kept whether it is open; not given: it is never folded */
  folded?: string;
  children: ReactNode;
}) {
  const id = useId();
  const [open, setOpen] = useKeptState(`fold.${folded ?? ''}`, false);
  const shown = folded === undefined || open;
  return (
    <Box component="section" aria-labelledby={id} sx={{ mb: shown ? 4 : 0.5 }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          borderTop: `1px solid ${GROUND.line}`,
          pt: 1,
          mb: shown ? 1.25 : 0,
          gap: 2,
        }}
      >
        <Typography id={id} variant="h2" component="h2" sx={{ flex: 1 }}>
          {folded === undefined ? (
            title
          ) : (
            <ButtonBase
              aria-expanded={open}
              onClick={() => setOpen(!open)}
              sx={{ font: 'inherit', width: '100%', justifyContent: 'flex-start', gap: 1, py: 0.5 }}
            >
              <Box component="span" aria-hidden sx={{ width: 12, color: INK.soft }}>
                {open ? '▾' : '▸'}
              </Box>
              {title}
            </ButtonBase>
          )}
        </Typography>
        {aside}
      </Box>
      {shown && children}
    </Box>
  );
}
