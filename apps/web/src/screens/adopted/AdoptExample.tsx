import { Box, Typography } from '@mui/material';
import useSWR from 'swr';
import { shownName } from '@arkiv/core';
import { bytes, count, many, mediumDay } from '../../data/format';
import { post, type Api } from '../../data/http';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useSettled } from '../../parts/useSettled';
import { CAPTION, GROUND, INK } from '../../theme/theme';

type Example = Api['AdoptExampleDto'];
type Asked = Api['AdoptAskedDto'];

/** Milliseconds without a change before the server is asked: it walks the whole tree. */
const PAUSE = 500;
/** Shoots named: a page of them. */
const SHOWN = 12;
const LIST = new Intl.ListFormat('en', { type: 'conjunction' });

/** What a folder would become, as the form stands. Nothing is changed by it. */
export function AdoptExample({ path, rule }: Asked) {
  const asked = useSettled(JSON.stringify({ path, rule } satisfies Asked), PAUSE);
  const { data, error, isLoading } = useSWR<Example>(
    ['/adopted/example', asked],
    () => post('/adopted/example', JSON.parse(asked) as Asked),
    { shouldRetryOnError: false, revalidateOnFocus: false },
  );
  return (
    <Box
      role="status"
      aria-label="What it would become"
      sx={{ bgcolor: GROUND.raised, p: 1.5, display: 'grid', gap: 0.75 }}
    >
      <Typography component="h3" sx={{ fontWeight: 600 }}>
        What it would become
      </Typography>
      {isLoading || asked !== JSON.stringify({ path, rule }) ? (
        <Loading what="the folder" />
      ) : error ? (
        <Problem error={error} />
      ) : (
        data && <Said data={data} />
      )}
    </Box>
  );
}

function Said({ data }: { data: Example }) {
  const { shoots, moreShoots, frames, files, bytes: size, sidecars, daysUnread, newDrive, drive, out } = data;
  const stays = [
    out.archive > 0 && `${many(out.archive, 'folder')} of the archive’s own`,
    out.root > 0 && `${many(out.root, 'picture')} directly at the drive’s root, where a shoot has no folder`,
    out.unnamed > 0 && `${count(out.unnamed)} whose names are no text`,
    out.link > 0 && `${many(out.link, 'link')}`,
    out.other > 0 && `${many(out.other, 'file')} that are no pictures`,
    out.hidden > 0 && `${count(out.hidden)} hidden`,
  ].filter((part) => part !== false);
  const others = shoots.length - SHOWN + moreShoots;
  return (
    <>
      {frames === 0 ? (
        <Box>No pictures lie in it.</Box>
      ) : (
        <Box>
          {many(frames, 'frame')} ({many(files, 'file')}, {bytes(size)})
          {daysUnread === 0 && ` in ${many(shoots.length + moreShoots, 'shoot')}`}
          {sidecars > 0 && `, with what ${many(sidecars, 'sidecar')} say`}.
        </Box>
      )}
      {newDrive !== null && (
        <Box>
          {shownName(newDrive)} becomes a drive of the archive, “{shownName(drive)}”: a small id file is put
          there. Nothing is written into the folder itself.
        </Box>
      )}
      {shoots.slice(0, SHOWN).map(({ title, date, folder, frames: own }) => (
        <Box
          key={`${title} ${folder} ${date}`}
          sx={{ display: 'flex', gap: 2, justifyContent: 'space-between' }}
        >
          <Box sx={{ minWidth: 0 }}>
            {shownName(title)}
            <Box component="span" sx={{ ...CAPTION, color: INK.soft, ml: 1 }}>
              {date === null ? 'by its first picture' : mediumDay(date)}
              {folder !== '' && folder !== title && ` · ${shownName(folder)}`}
            </Box>
          </Box>
          <Box sx={{ whiteSpace: 'nowrap' }}>{count(own)}</Box>
        </Box>
      ))}
      {others > 0 && <Box sx={{ color: INK.soft }}>and {many(others, 'more shoot')}</Box>}
      {daysUnread > 0 && (
        <Box sx={{ color: INK.soft }}>
          The days of {many(daysUnread, 'more frame')} are read when it is adopted.
        </Box>
      )}
      {stays.length > 0 && <Box sx={{ color: INK.soft }}>Left out: {LIST.format(stays)}.</Box>}
    </>
  );
}
