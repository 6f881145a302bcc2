import { Box, Typography } from '@mui/material';
import { many, mediumDay, momentOf } from '../../data/format';
import type { Api } from '../../data/http';
import { useLatestArrival } from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { PassOver } from '../../parts/PassOver';
import { PlacedSheet } from '../../parts/PlacedSheet';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { TextLink } from '../../parts/TextLink';
import { INK } from '../../theme/theme';

const heading = ({ time, shoot }: Api['PlacedFrameDto']): string =>
  `${time ? mediumDay(time.slice(0, 10)) : 'No capture time'} · ${shoot}`;

/** The card that came last, whole, in order of time, across the shoots and day folders that it went into. */
export function ArrivalScreen() {
  useScreenTitle('Latest arrival');
  const { data: arrival, error } = useLatestArrival();
  if (!arrival || arrival.frames.length === 0)
    return (
      <Page title="Latest arrival">
        <Problem error={error} />
        {!arrival && !error && <Loading what="the latest arrival" />}
        {arrival && (
          <Typography sx={{ color: 'text.secondary' }}>
            No card was taken in yet, or none of its frames is proven yet.{' '}
            <TextLink to="/">To the Desk</TextLink>
          </Typography>
        )}
      </Page>
    );
  const { frames } = arrival;
  const shoots = new Map(frames.map((f) => [f.shootId, f.shoot]));
  return (
    <Box
      component="main"
      sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', minHeight: 0, pl: 3 }}
    >
      <Box sx={{ py: 2, pr: 3 }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2 }}>
          <Typography variant="h1">Latest arrival: {arrival.card}</Typography>
          <PassOver words="the latest arrival" over={{ frames: frames.map(({ id }) => id) }} />
        </Box>
        <Typography sx={{ color: 'text.secondary' }}>
          {many(frames.length, 'frame')} taken in {momentOf(arrival.at)}, now in{' '}
          {[...shoots].map(([id, title], i) => (
            <Box component="span" key={id}>
              {i > 0 && ' and '}
              <TextLink to={`/shoots/${id}/cull`}>{title}</TextLink>
            </Box>
          ))}
          , {many(new Set(frames.map((f) => f.folder)).size, 'folder')}.
        </Typography>
        <Box sx={{ color: INK.faint }}>
          Enter or a double click opens a frame in its shoot, to be culled there.
        </Box>
      </Box>
      <Box sx={{ minHeight: 0 }}>
        <PlacedSheet label="Frames of the latest arrival" frames={frames} heading={heading} />
      </Box>
    </Box>
  );
}
