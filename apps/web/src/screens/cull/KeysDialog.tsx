import { Box, Dialog, DialogContent, DialogTitle } from '@mui/material';
import { memo } from 'react';
import { CULL_KEYS } from '../../keys/cullKeys';
import { CAPTION, GROUND, INK } from '../../theme/theme';

const GROUPS = ['Move', 'Mark', 'Look', 'Undo'] as const;

/** What is done, and all the keys that do it. */
function rowsOf(group: (typeof GROUPS)[number]): [string, string[]][] {
  const rows = new Map<string, string[]>();
  for (const key of CULL_KEYS)
    if (key.group === group) rows.set(key.does, [...(rows.get(key.does) ?? []), key.shown]);
  return [...rows];
}

/** All keys of Cull, from the same table that binds them. */
export const KeysDialog = memo(function KeysDialog({
  open,
  onClose,
}: {
  open: boolean;
  onClose: () => void;
}) {
  return (
    <Dialog
      open={open}
      onClose={onClose}
      // The key that opened it closes it.
      onKeyDown={(event) => event.key === '?' && onClose()}
      maxWidth="md"
      aria-labelledby="keys-title"
      transitionDuration={0}
    >
      <DialogTitle id="keys-title">Keys in Cull: the left hand marks, the right hand moves</DialogTitle>
      <DialogContent tabIndex={0}>
        <Box sx={{ columns: 3, columnGap: 4 }}>
          {GROUPS.map((group) => (
            <Box key={group} sx={{ breakInside: 'avoid', mb: 2 }}>
              <Box component="h3" sx={{ m: 0, mb: 0.5, fontSize: 13, color: INK.faint, fontWeight: 600 }}>
                {group}
              </Box>
              {rowsOf(group).map(([does, shown]) => (
                <Box key={does} sx={{ display: 'flex', gap: 1.5, py: 0.25, alignItems: 'baseline' }}>
                  <Box
                    component="kbd"
                    sx={{
                      ...CAPTION,
                      minWidth: 74,
                      color: INK.full,
                      borderBottom: `1px solid ${GROUND.line}`,
                      fontWeight: 640,
                    }}
                  >
                    {shown.join(' · ')}
                  </Box>
                  <Box sx={{ color: INK.soft }}>{does}</Box>
                </Box>
              ))}
            </Box>
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
});
