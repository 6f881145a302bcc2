import { Box } from '@mui/material';
import { shownName } from '@arkiv/core';
import { matchPath, useLocation } from 'react-router';
import { useShoot } from '../data/live';
import { GROUND, INK } from '../theme/theme';
import { TextLink } from './TextLink';

/** On the screens of a shoot all of whose frames went into another: where they are. Cull, which has nothing else to show, says it large. */
export function WentInto() {
  const { pathname } = useLocation();
  const { id, step } = matchPath('/shoots/:id/:step', pathname)?.params ?? {};
  const { data: shoot } = useShoot(step === 'cull' ? undefined : id);
  const into = shoot?.mergedInto ?? undefined;
  const { data: other } = useShoot(into);
  if (!shoot || into === undefined) return null;
  return (
    <Box
      role="note"
      sx={{
        ...{ px: 2.5, py: 0.75, bgcolor: GROUND.raised, color: INK.soft },
        borderBottom: `1px solid ${GROUND.line}`,
      }}
    >
      <Box component="span" sx={{ color: INK.full }}>
        {shownName(shoot.title)} has no frames any more.
      </Box>{' '}
      They are in{' '}
      <TextLink to={`/shoots/${into}/${step}`}>{other ? shownName(other.title) : 'another shoot'}</TextLink>,
      with what went out of them.
    </Box>
  );
}
