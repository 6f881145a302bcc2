import { Box, Button, TextField, Typography } from '@mui/material';
import { lazy, Suspense, useEffect, useState } from 'react';
import { shownName } from '@arkiv/core';
import { momentOf } from '../../data/format';
import type { Api } from '../../data/http';
import { useShoot } from '../../data/live';
import { useGet } from '../../data/useGet';
import { GrowingPages, type PageAsked } from '../../parts/GrowingPages';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useQuery } from '../../parts/useQuery';
import { useSettled } from '../../parts/useSettled';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

const DateField = lazy(() => import('../../parts/DateField'));

type Line = Api['TrailLineDto'];

/** Milliseconds after the last letter before it is looked for. */
const PAUSE = 250;

const WORDS: Record<Line['kind'], string> = {
  renamed: 'Renamed',
  moved: 'Moved',
  binned: 'Binned',
  forgotten: 'Forgotten, files left',
  'brought-back': 'Brought back',
  deleted: 'Deleted',
  'taken-off': 'Taken off a drive',
  missing: 'Missing',
  damaged: 'Found damaged',
  repaired: 'Good again',
  changed: 'Changed by another program',
  gone: 'Gone',
};

/** What became of files; of one shoot, frame or day where the address says so. */
export function TrailScreen() {
  const [query, set] = useQuery();
  const [shootId, frameId] = ['shoot', 'frame'].map((name) => query.get(name) ?? undefined);
  const day = query.get('day') ?? '';
  const said = query.get('find') ?? '';
  // The address follows when it is quiet: it cannot keep up with somebody who types.
  const [find, setFind] = useState(said);
  const sought = useSettled(find, PAUSE);
  const { data: shoot } = useShoot(shootId);
  /* eslint-disable react-hooks/exhaustive-deps -- each follows the other's last word, and nothing else */
  useEffect(() => {
    if (sought !== said) set('find', sought);
  }, [sought]);
  // A link, or Back, came with other words.
  useEffect(() => {
    if (said !== sought) setFind(said);
  }, [said]);
  /* eslint-enable react-hooks/exhaustive-deps */
  const asked = new URLSearchParams({
    ...(shootId && { shoot: shootId }),
    ...(frameId && { frame: frameId }),
    ...(day && { day }),
    ...(said && { find: said }),
  }).toString();
  const of = frameId ? 'of this frame' : shoot ? `of ${shownName(shoot.title)}` : null;
  return (
    <Page
      title="Paper trail"
      of={shoot && shownName(shoot.title)}
      lead={
        of ? (
          <>
            What became of files {of}. <TextLink to="/trail">Of all files</TextLink>
          </>
        ) : (
          'What became of files, the newest first. Nothing is ever taken out of it.'
        )
      }
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mb: 2 }}>
        <TextField
          label="Words in paths, titles, drives"
          value={find}
          onChange={(event) => setFind(event.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
          sx={{ width: 250 }}
        />
        <Box sx={{ width: 190 }}>
          <Suspense fallback={null}>
            <DateField
              label="Day"
              value={day}
              onChange={(value) => set('day', value)}
              onClear={() => set('day', '')}
            />
          </Suspense>
        </Box>
      </Box>
      <GrowingPages key={asked} page={(page) => <TrailPage {...page} asked={asked} />} />
    </Page>
  );
}

function TrailPage({ after, isFirst, onMore, asked }: PageAsked & { asked: string }) {
  const words = [asked, after === null ? '' : `before=${after}`].filter(Boolean).join('&');
  const { data, error } = useGet(`/trail?${words}`);
  if (!data) return error ? <Problem error={error} /> : <Loading what="the paper trail" />;
  return (
    <>
      {isFirst && data.lines.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          {asked === ''
            ? 'No file was moved, renamed, binned or put right yet.'
            : 'Nothing of the kind happened.'}
        </Typography>
      )}
      {data.lines.length > 0 && (
        <Box role="list" aria-label="Paper trail">
          {data.lines.map((line) => (
            <TrailLine key={line.seq} line={line} />
          ))}
        </Box>
      )}
      {data.more && onMore && (
        <Button color="inherit" sx={{ mt: 1.5 }} onClick={() => onMore(String(data.lines.at(-1)!.seq))}>
          Show earlier ones
        </Button>
      )}
    </>
  );
}

function TrailLine({ line: { at, kind, shootId, shoot, drive, from, to, reason } }: { line: Line }) {
  return (
    <Box
      role="listitem"
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '170px 190px minmax(0, 1fr) minmax(0, 220px)' },
        columnGap: 2,
        alignItems: 'baseline',
        py: 0.75,
        borderBottom: `1px solid ${GROUND.raised}`,
      }}
    >
      <Box sx={{ ...CAPTION, color: INK.soft }}>{momentOf(at)}</Box>
      <Box sx={{ color: kind === 'damaged' || kind === 'missing' ? STRIKE_TEXT : undefined }}>
        {WORDS[kind]}
      </Box>
      <Box sx={{ overflowWrap: 'anywhere' }}>
        {wayOf(from, to)}
        {(drive !== null || reason !== null) && (
          <Box sx={{ ...CAPTION, color: INK.soft }}>
            {[drive && `on “${shownName(drive)}”`, reason].filter(Boolean).join(' · ')}
          </Box>
        )}
      </Box>
      <Box sx={{ ...CAPTION, minWidth: 0 }}>
        {shoot !== '' && <TextLink to={`/trail?shoot=${shootId}`}>{shownName(shoot)}</TextLink>}
      </Box>
    </Box>
  );
}

/** Where something lay and lies; of a new name in the same folder only that. */
function wayOf(from: string | null, to: string | null): string {
  const folder = (path: string): string => path.slice(0, path.lastIndexOf('/') + 1);
  const isNameOnly = from !== null && to !== null && folder(from) === folder(to);
  const end = isNameOnly ? to.slice(folder(to).length) : to;
  return [from, end]
    .filter((path) => path !== null)
    .map(shownName)
    .join(' → ');
}
