import { Box, Typography } from '@mui/material';
import useSWR from 'swr';
import { shownName } from '@arkiv/core';
import { bytes, count, many, mediumDay } from '../../data/format';
import { post, type Api } from '../../data/http';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useSettled } from '../../parts/useSettled';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

type Example = Api['WatchExampleDto'];
type Wish = Api['WatchWishDto'];

/** Milliseconds without a change before the server is asked: it reads what lies there. */
const PAUSE = 500;
const LIST = new Intl.ListFormat('en', { type: 'conjunction' });

/** What would happen with what lies in the folder now, as the form stands. */
export function WatchExample({ wish, id }: { wish: Wish; id?: string }) {
  const asked = useSettled(JSON.stringify({ ...wish, ...(id === undefined ? {} : { id }) }), PAUSE);
  const { data, error } = useSWR<Example>(
    ['/watch/example', asked],
    () => post('/watch/example', JSON.parse(asked) as Wish),
    { keepPreviousData: true, shouldRetryOnError: false, revalidateOnFocus: false },
  );
  return (
    <Box
      role="status"
      aria-label="What would happen now"
      sx={{ bgcolor: GROUND.raised, p: 1.5, display: 'grid', gap: 0.75 }}
    >
      <Typography component="h3" sx={{ fontWeight: 600 }}>
        What would happen now
      </Typography>
      {error ? <Problem error={error} /> : !data ? <Loading what="the folder" /> : <Said data={data} />}
    </Box>
  );
}

function Said({ data }: { data: Example }) {
  const { shoots, more, takenBefore, left, outside, drives } = data;
  const stays = [
    takenBefore > 0 && `${many(takenBefore, 'file')} taken in before`,
    outside.type > 0 && `${count(outside.type)} of other types`,
    outside.out > 0 && `${count(outside.out)} in the folder that stays out`,
    outside.below > 0 && `${count(outside.below)} in folders below`,
    outside.unknown > 0 && `${count(outside.unknown)} that are no pictures`,
    outside.hidden > 0 && `${count(outside.hidden)} hidden`,
    left > 0 && `${count(left)} that could not be taken in`,
  ].filter((part) => part !== false);
  return (
    <>
      {drives.length === 0 && (
        <Box sx={{ color: STRIKE_TEXT }}>No drive is here that pictures could be copied to.</Box>
      )}
      {shoots.length === 0 && <Box>Nothing in it is to be taken in.</Box>}
      {shoots.map(({ title, date, existing, frames, files, bytes: size, names }) => (
        <Box key={`${title} ${date}`}>
          <Box>
            {many(frames, 'frame')} ({many(files, 'file')}, {bytes(size)}) {existing ? 'go into' : 'become'} “
            {shownName(title)}”, {mediumDay(date)}
            {drives.length > 0 && `, on ${LIST.format(drives.map((drive) => `“${drive}”`))}`}.
          </Box>
          {names.map(({ from, to }) => (
            <Box key={from} sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
              {shownName(from)} → {shownName(to)}
            </Box>
          ))}
        </Box>
      ))}
      {more > 0 && <Box>{many(more, 'more file')} come after these.</Box>}
      {stays.length > 0 && <Box sx={{ color: INK.soft }}>Not touched: {LIST.format(stays)}.</Box>}
    </>
  );
}
