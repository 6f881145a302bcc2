import { Box, Dialog, DialogContent, DialogTitle } from '@mui/material';
import { memo } from 'react';
import { useLocation } from 'react-router';
import { useBindings } from '../../data/bindings';
import { ACTIONS, GROUPS, type Group } from '../../keys/actions';
import { shownKey, type Bindings } from '../../keys/bindings';
import { TextLink } from '../../parts/TextLink';
import { useClosingKey } from '../../parts/useClosingKey';
import { guideOf } from '../guide/guideOf';
import { CAPTION, GROUND, INK } from '../../theme/theme';

/** What is done, and all the keys that do it. */
const rowsOf = (group: Group, bindings: Bindings): [string, string[]][] =>
  ACTIONS.flatMap((action) => {
    const keys = bindings.keysOf(action).map(shownKey);
    return action.group === group && keys.length > 0 ? [[action.does, keys]] : [];
  });

/** All keys of Cull, from the same table that binds them. */
export const KeysDialog = memo(function KeysDialog({
  open,
  onClose,
}: {
  open: boolean;
  onClose: () => void;
}) {
  const bindings = useBindings();
  const onKeyDown = useClosingKey('keys', onClose);
  return (
    <Dialog
      open={open}
      onClose={onClose}
      onKeyDown={onKeyDown}
      maxWidth="lg"
      fullWidth
      aria-labelledby="keys-title"
      transitionDuration={0}
    >
      <DialogTitle id="keys-title">
        Keys in Cull
        <Box component="span" sx={{ ml: 3, fontSize: 14, fontWeight: 400 }}>
          <TextLink to="/studio#keys">Change keys</TextLink>{' '}
          <TextLink to={`/guide/${guideOf(useLocation().pathname)}`}>Guide</TextLink>
        </Box>
      </DialogTitle>
      <DialogContent tabIndex={0}>
        <Box sx={{ columns: '4 240px', columnGap: 4, fontSize: 14 }}>
          {GROUPS.map((group) => (
            <Box key={group} sx={{ breakInside: 'avoid', mb: 2 }}>
              <Box component="h3" sx={{ m: 0, mb: 0.5, fontSize: 13, color: INK.faint, fontWeight: 600 }}>
                {group}
              </Box>
              {rowsOf(group, bindings).map(([does, shown]) => (
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
