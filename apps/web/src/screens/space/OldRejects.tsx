import { Box, Button, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { useState } from 'react';
import { monthsBefore, REJECTS_AT_ONCE, shownName } from '@arkiv/core';
import { bytes, count, many, mediumDay } from '../../data/format';
import { post, type Api } from '../../data/http';
import { jobEnd } from '../../data/jobEnd';
import { useGet } from '../../data/useGet';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { useKeptState } from '../../parts/useKeptState';
import { CAPTION, INK, STRIKE_TEXT } from '../../theme/theme';
import { addressOf } from '../cull/address';
import { NO_FILTER } from '../cull/cullFilter';
import { AGES, ageWords } from './spaceWords';

/** Where a shoot's rejects are looked at before they go. */
const toRejects = (id: string) =>
  `/shoots/${id}/cull${addressOf({ view: 'sheet', filter: { ...NO_FILTER, standing: 'reject' } }, null)}`;

/** What is asked of rejects, and what is said: the page shows itself when it is there, so that nothing moves under a hand. */
export function useOldRejects() {
  const [months, setMonths] = useKeptState('space.age', 12);
  // By the day on which the screen was opened: what is offered does not change under a hand.
  const [today] = useState(() => new Date().toISOString().slice(0, 10));
  /** the shoot after which those that are listed come; null: they are the oldest */
  const [after, setAfter] = useState<string | null>(null);
  const asked = new URLSearchParams({
    ...(months > 0 && { until: monthsBefore(today, months) }),
    ...(after !== null && { after }),
  });
  const answer = useGet(`/space/rejects?${asked}`, { keepPreviousData: true });
  return { months, setMonths, after, setAfter, ...answer };
}

/** Rejects of shoots that are old enough, into the bin: the oldest shoots' in one go, or of those of them that are chosen. */
export function OldRejects({
  rejects: { months, setMonths, after, setAfter, data, error: failure, mutate },
  onDone,
}: {
  rejects: ReturnType<typeof useOldRejects>;
  onDone: () => void;
}) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [listed, setListed] = useState(false);
  const [refused, setRefused] = useState<Api['RefusedRejectsDto'][]>([]);
  /** shoots that are done, while they go */
  const [gone, setGone] = useState(0);
  const oldest = data?.oldest ?? [];
  const chosen = oldest.filter(({ id }) => !left.has(id));
  const sum = (of: 'frames' | 'bytes') => chosen.reduce((n, shoot) => n + shoot[of], 0);
  const { run, busy, error } = useAction(async () => {
    setGone(0);
    const begun = await post('/space/rejects', { shootIds: chosen.map(({ id }) => id) });
    setRefused(begun.refused);
    for (const id of begun.jobIds) {
      await jobEnd(id);
      setGone((n) => n + 1);
    }
    await mutate();
    onDone();
  });
  const frames = many(sum('frames'), 'frame');
  const its = `${frames} of ${many(chosen.length, 'shoot')}, ${bytes(sum('bytes'))} on all drives`;
  const more = data !== undefined && data.shoots > oldest.length;
  const last = oldest.length === REJECTS_AT_ONCE ? oldest.at(-1)!.id : null;
  return (
    <Box role="group" aria-label="Rejects" sx={{ pb: 1.5 }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2 }}>
        <Box sx={{ fontWeight: 560 }}>Rejects of shoots</Box>
        <TextField
          select
          size="small"
          label="Shoots"
          value={months}
          onChange={(event) => {
            setMonths(Number(event.target.value));
            setAfter(null);
          }}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          sx={{ width: 200 }}
        >
          {AGES.map((age) => (
            <option key={age} value={age}>
              {ageWords(age)}
            </option>
          ))}
        </TextField>
      </Box>
      <Problem error={failure} />
      {data && data.shoots === 0 && (
        <Box sx={{ color: INK.soft, mt: 1 }}>
          {data.younger === 0
            ? 'No shoot has rejects in the archive.'
            : `No shoot that is ${ageWords(months)} has rejects; ${many(data.younger, 'younger one has', 'younger ones have')} some.`}
        </Box>
      )}
      {data && data.shoots > 0 && (
        <>
          <Box sx={{ mt: 1 }}>
            {more
              ? `${many(data.frames, 'frame')} of ${many(data.shoots, 'shoot')}, ${bytes(data.bytes)} on all drives. ${after === null ? `The ${count(oldest.length)} oldest shoots go first` : `Now ${count(oldest.length)} that come after those`}, the others when these are done: ${its}.`
              : `${its}.`}{' '}
            <Box component="span" sx={{ color: INK.soft }}>
              They go into the bin of each drive with all their files, come back from there with their marks,
              and free their room when it is emptied. Adopted folders are left out.
            </Box>
          </Box>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 1 }}>
            <Button
              variant="outlined"
              color="inherit"
              disabled={busy || chosen.length === 0}
              onClick={() => run()}
            >
              {busy
                ? `Putting ${frames} into the bin, ${many(gone, 'shoot')} done …`
                : `Put ${frames} into the bin`}
            </Button>
            <Button color="inherit" aria-expanded={listed} onClick={() => setListed(!listed)}>
              {listed ? 'Hide the shoots' : `Choose among ${many(oldest.length, 'shoot')}`}
            </Button>
            {last !== null && more && (
              <Button color="inherit" disabled={busy} onClick={() => setAfter(last)}>
                Leave these, go on to the next
              </Button>
            )}
            {after !== null && (
              <Button color="inherit" disabled={busy} onClick={() => setAfter(null)}>
                Back to the oldest
              </Button>
            )}
          </Box>
          {listed &&
            oldest.map(({ id, title, date, frames: n, bytes: size }) => (
              <Box key={id} sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 2 }}>
                <FormControlLabel
                  sx={{ flex: '1 1 300px', mr: 0 }}
                  control={
                    <Checkbox
                      size="small"
                      checked={!left.has(id)}
                      disabled={busy}
                      onChange={() =>
                        setLeft(
                          (now) => new Set(now.has(id) ? [...now].filter((one) => one !== id) : [...now, id]),
                        )
                      }
                    />
                  }
                  label={shownName(title)}
                />
                <Box sx={{ ...CAPTION, color: INK.soft }}>
                  {mediumDay(date)} · {many(n, 'reject')} · {bytes(size)}
                </Box>
                <TextLink to={toRejects(id)}>Look at them</TextLink>
              </Box>
            ))}
        </>
      )}
      {refused.map(({ shoot, reason }) => (
        <Box key={shoot} sx={{ color: STRIKE_TEXT, mt: 1 }}>
          {shownName(shoot)}: {shownName(reason)} Its rejects stayed.
        </Box>
      ))}
      <Problem error={error} />
    </Box>
  );
}
