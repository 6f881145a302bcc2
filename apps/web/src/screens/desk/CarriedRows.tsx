import { Box, Button } from '@mui/material';
import { useNavigate } from 'react-router';
import { shownName } from '@arkiv/core';
import { many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { useAction } from '../../parts/useAction';
import { CAPTION, INK } from '../../theme/theme';
import { carriedWords } from './carriedWords';

/** Shoots named at once; the rest are counted. */
const NAMED = 5;

/** Drives on which another archive left shoots that are not taken in yet, where there are any. */
export function CarriedRows() {
  const { data, error } = useGet('/carried');
  if (!error && (data ?? []).length === 0) return null;
  return (
    <Section title="From another archive">
      <Problem error={error} />
      {data?.map((carried) => (
        <CarriedRow key={carried.volumeId} carried={carried} />
      ))}
    </Section>
  );
}

function CarriedRow({ carried }: { carried: Api['CarriedDto'] }) {
  const { volumeId, volume, archive, shoots, jobId } = carried;
  const navigate = useNavigate();
  const taking = useAction(async () => {
    const begun = await post(`/carried/${volumeId}`);
    await navigate(`/carried/${begun.jobId}`);
  });
  const leaving = useAction(() => post(`/carried/${volumeId}/leave`));
  const busy = taking.busy || leaving.busy || jobId !== null;
  return (
    <Box role="group" aria-label={shownName(volume)} sx={{ py: 0.75 }}>
      <Box sx={{ fontWeight: 560 }}>
        “{shownName(archive)}” had “{shownName(volume)}”
      </Box>
      <Box>{carriedWords(shoots)}</Box>
      <Box component="ul" aria-label="Its shoots" sx={{ m: 0, my: 0.5, p: 0, listStyle: 'none' }}>
        {shoots.slice(0, NAMED).map(({ id, title, date, frames, known }) => (
          <Box component="li" key={id}>
            {shownName(title)}{' '}
            <Box component="span" sx={{ ...CAPTION, color: INK.soft }}>
              {date}, {many(frames, 'frame')}, {known ? 'here already' : 'not here yet'}
            </Box>
          </Box>
        ))}
        {shoots.length > NAMED && (
          <Box component="li" sx={{ color: INK.soft }}>
            and {many(shoots.length - NAMED, 'other')}
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        <Button variant="outlined" color="inherit" disabled={busy} onClick={() => taking.run()}>
          {shoots.length === 1 ? 'Take it in' : 'Take them in'}
        </Button>
        <Button color="inherit" disabled={busy} onClick={() => leaving.run()}>
          Leave as it is
        </Button>
      </Box>
      <Box sx={{ ...CAPTION, color: INK.soft, mt: 0.5 }}>
        No picture is moved or changed. Until one of both is pressed, nothing of this archive is written onto
        the drive. Left as it is, what “{shownName(archive)}” said there is kept beside what this one writes.
      </Box>
      <Problem error={taking.error ?? leaving.error} />
    </Box>
  );
}
