import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { bytes, many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { jobEnd } from '../../data/jobEnd';
import { useBin } from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { TypedNumber } from '../../parts/TypedNumber';
import { useAction } from '../../parts/useAction';
import { BinTime } from './BinTime';

type Time = Api['BinTimeDto'];

/** Ages by which the bin is emptied, in days: a week, a month, a season. */
const AGES = [0, 7, 30, 90];
const DAY_MILLIS = 24 * 60 * 60 * 1000;

/** What is in the bin and what was forgotten: to be brought back, or deleted for good. */
export function BinScreen() {
  const { data, error } = useBin();
  const binned = data?.times.filter(({ deed }) => deed === 'bin') ?? [];
  const forgotten = data?.times.filter(({ deed }) => deed === 'forget') ?? [];
  return (
    <Page
      title="Bin"
      lead="What was put into the bin lies in the folder .arkiv-bin of each drive until you empty it here. It counts as no copy."
    >
      <Problem error={error} />
      {!data && !error && <Loading what="the bin" />}
      {data && (
        <Box sx={{ maxWidth: 980 }}>
          <Section
            title="In the bin"
            aside={
              <>
                <TextLink to="/duplicates">Duplicates</TextLink> ·{' '}
                <TextLink to="/variants">Variants</TextLink> · <TextLink to="/trail">Paper trail</TextLink>
              </>
            }
          >
            {binned.length === 0 && (
              <Typography sx={{ color: 'text.secondary' }}>
                Nothing is in it. A shoot’s rejects are put in under Files.
              </Typography>
            )}
            {binned.map((time) => (
              <BinTime key={time.id} time={time} />
            ))}
            {binned.length > 0 && <Empty times={binned} />}
          </Section>
          <Section title="Forgotten, files left">
            {forgotten.length === 0 && (
              <Typography sx={{ color: 'text.secondary' }}>
                Nothing is. Forgotten frames come back from here, with their marks.
              </Typography>
            )}
            {forgotten.map((time) => (
              <BinTime key={time.id} time={time} />
            ))}
          </Section>
          {data.due.length > 0 && (
            <Section title="When drives return">
              {data.due.map(({ volume, deed, files }) => (
                <Box key={`${volume} ${deed}`}>
                  {many(files, 'file')} {DUE_WORDS[deed]} on “{volume}” when it is connected.
                </Box>
              ))}
            </Section>
          )}
        </Box>
      )}
    </Page>
  );
}

const DUE_WORDS: Record<Api['BinDueDto']['deed'], string> = {
  bin: 'are put into the bin',
  back: 'come back out of the bin',
  delete: 'are deleted',
};

function Empty({ times }: { times: readonly Time[] }) {
  const [asked, setAsked] = useState(false);
  const [days, setDays] = useState(0);
  // By the clock at which the question was opened: it does not change while somebody types.
  const [now, setNow] = useState(0);
  const old = times.filter(({ at }) => at <= now - days * DAY_MILLIS);
  const sum = (of: 'frames' | 'files' | 'bytes') => old.reduce((n, time) => n + time[of], 0);
  const frames = sum('frames');
  const drives = [...new Set(old.flatMap(({ volumes }) => volumes))].map((name) => `“${name}”`).join(' and ');
  const { run, busy, error, again } = useAction(async (typed: number) => {
    await jobEnd((await post('/bin/empty', { binIds: old.map(({ id }) => id), typed })).jobId);
    setAsked(false);
  });
  if (!asked)
    return (
      <Button
        color="inherit"
        sx={{ mt: 1, ml: -1 }}
        onClick={() => {
          setNow(Date.now());
          setAsked(true);
        }}
      >
        Empty the bin …
      </Button>
    );
  return (
    <Box role="group" aria-label="Empty the bin" sx={{ mt: 2 }}>
      <TextField
        select
        size="small"
        label="What has lain there"
        value={days}
        onChange={(event) => setDays(Number(event.target.value))}
        sx={{ width: 260 }}
      >
        {AGES.map((age) => (
          <MenuItem key={age} value={age}>
            {age === 0 ? 'everything' : `for at least ${age} days`}
          </MenuItem>
        ))}
      </TextField>
      {frames === 0 ? (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}>
          <Typography sx={{ color: 'text.secondary' }}>Nothing has lain there for so long.</Typography>
          <Button color="inherit" onClick={() => setAsked(false)}>
            Cancel
          </Button>
        </Box>
      ) : (
        <TypedNumber
          key={`${days} ${frames}`}
          frames={frames}
          said={`${many(frames, 'frame')}, ${many(sum('files'), 'file')}, ${bytes(sum('bytes'))} on each of ${drives}. They cannot be brought back.`}
          busy={busy}
          onDelete={run}
          onCancel={() => setAsked(false)}
        />
      )}
      <Problem error={error} again={again} />
    </Box>
  );
}
