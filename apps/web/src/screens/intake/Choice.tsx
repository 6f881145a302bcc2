import { Box, Button } from '@mui/material';
import type { ReactNode } from 'react';
import { INK } from '../../theme/theme';

/** What holds for this card, and the way to change it. */
export function Choice({
  title,
  said,
  more,
  action,
  disabled,
  onOpen,
  children,
}: {
  title: string;
  said: string;
  more?: string;
  action: string;
  disabled?: boolean;
  onOpen: () => void;
  children?: ReactNode;
}) {
  return (
    <Box sx={{ gridColumn: 'span 2', display: 'flex', alignItems: 'center', gap: 1, minWidth: 0 }}>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        {children || (
          <>
            <Box sx={{ color: INK.faint, fontSize: 12.5 }}>{title}</Box>
            <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{said}</Box>
            {more && (
              <Box
                sx={{
                  color: INK.soft,
                  fontSize: 12.5,
                  overflow: 'hidden',
                  textOverflow: 'ellipsis',
                  whiteSpace: 'nowrap',
                }}
              >
                {more}
              </Box>
            )}
          </>
        )}
      </Box>
      <Button
        color="inherit"
        size="small"
        disabled={disabled}
        sx={{ whiteSpace: 'nowrap', flex: 'none' }}
        onClick={onOpen}
      >
        {action}
      </Button>
    </Box>
  );
}
