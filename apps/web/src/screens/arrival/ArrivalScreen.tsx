import { Box, Typography } from '@mui/material';
import { useCallback, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { many, mediumDay, momentOf } from '../../data/format';
import { numberOf, placeholderOf, previewUrl } from '../../data/frames';
import { useLatestArrival } from '../../data/live';
import { ContactSheet } from '../../parts/ContactSheet';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { SheetCell } from '../../parts/SheetCell';
import { sheetList } from '../../parts/sheetRows';
import { TextLink } from '../../parts/TextLink';
import { useSheetWalk } from '../../parts/useSheetWalk';
import { INK } from '../../theme/theme';

/** The card that came last, whole, in order of time, across the shoots and day folders that it went into. */
export function ArrivalScreen() {
  useScreenTitle('Latest arrival');
  const { data: arrival, error } = useLatestArrival();
  const navigate = useNavigate();
  const entries = useMemo(
    () =>
      sheetList(
        arrival?.frames.map((f) => ({
          key: f.id,
          heading: `${f.time ? mediumDay(f.time.slice(0, 10)) : 'No capture time'} · ${f.shoot}`,
        })) ?? [],
      ),
    [arrival],
  );
  const frames = useMemo(() => arrival?.frames ?? [], [arrival]);
  const open = useCallback(
    (i: number) => void navigate(`/shoots/${frames[i]!.shootId}/cull?frame=${frames[i]!.id}`),
    [navigate, frames],
  );
  const { at: picked, go: setPicked, onLayout } = useSheetWalk(frames.length, { enter: open });
  if (!arrival || frames.length === 0)
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
  const shoots = new Map(frames.map((f) => [f.shootId, f.shoot]));
  return (
    <Box
      component="main"
      sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', minHeight: 0, pl: 3 }}
    >
      <Box sx={{ py: 2, pr: 3 }}>
        <Typography variant="h1">Latest arrival: {arrival.card}</Typography>
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
        <ContactSheet
          label="Frames of the latest arrival"
          list={entries}
          cell={170}
          current={picked}
          onLayout={onLayout}
          render={(i, width, height, id) => {
            const frame = frames[i]!;
            return (
              <SheetCell
                index={i}
                id={id}
                src={frame.picture ? previewUrl(frame.picture, 'thumb') : null}
                name={`Frame ${frame.name}, ${frame.verdict}, ${frame.stars} stars`}
                caption={`${numberOf(frame.name)} · ${frame.time?.slice(11, 19) ?? 'no time'}`}
                verdict={frame.verdict}
                stars={frame.stars}
                label={frame.label}
                selected={i === picked}
                current={i === picked}
                plain
                noPicture={placeholderOf(frame)}
                width={width}
                height={height}
                onPick={setPicked}
                onOpen={open}
              />
            );
          }}
        />
      </Box>
    </Box>
  );
}
