import { Box, LinearProgress } from '@mui/material';
import { useMemo } from 'react';
import { shownName, sumOf } from '@arkiv/core';
import { bytes, count, many, mediumDay } from '../../data/format';
import type { Api } from '../../data/http';
import { useBin } from '../../data/live';
import { ROLE_WORDS } from '../../data/roles';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { OldRejects, useOldRejects } from './OldRejects';
import { SpaceChart } from './SpaceChart';
import { SpareCopies } from './SpareCopies';

type Space = Api['SpaceDto'];

/** Milliseconds between two looks at a counting that is under way: a chunk of it takes about as long. */
const LOOK = 700;

/** What takes how much room, and what could go, each with what it would free. */
export function SpaceScreen() {
  const { data, error, mutate } = useGet('/space');
  const rejects = useOldRejects();
  const bin = useBin();
  const again = () => void mutate();
  const isWhole = data && (rejects.data || rejects.error) && (bin.data || bin.error);
  return (
    <Page title="Space" lead={data ? leadOf(data) : 'What takes how much room, and what could go.'}>
      <Problem error={error} />
      {!isWhole && !error && <Counting />}
      {isWhole && (
        <>
          <Section title="What could go">
            <OldRejects rejects={rejects} onDone={again} />
            <SpareCopies space={data} onDone={again} />
            <InBin />
          </Section>
          <Shares space={data} />
        </>
      )}
    </Page>
  );
}

/** What a large archive's first counting takes is said while it lasts: tens of seconds for a million frames. */
function Counting() {
  const { data } = useGet('/space/counting', { refreshInterval: LOOK });
  return (
    <>
      <Loading what="the sizes of all files" />
      {data && data.of > 0 && (
        <Box sx={{ maxWidth: 420, mx: 'auto', color: INK.soft, textAlign: 'center' }}>
          <LinearProgress
            variant="determinate"
            color="inherit"
            value={(data.files / data.of) * 100}
            aria-label="Files counted"
            sx={{ mb: 1 }}
          />
          {count(data.files)} of {many(data.of, 'file')} counted. They are kept, and only what changes is
          counted anew.
        </Box>
      )}
    </>
  );
}

function leadOf({ all, drives, shootCount }: Space): string {
  if (shootCount === 0) return 'No files are in the archive yet.';
  const used = drives.filter((drive) => sumOf(drive.bytes) > 0).length;
  return `${bytes(sumOf(all))} of ${many(shootCount, 'shoot')} on ${many(used, 'drive')}, each copy counted.`;
}

/** What lies in the bin still takes its room: that is freed there. */
function InBin() {
  const { data } = useBin();
  const times = data?.times.filter(({ deed }) => deed === 'bin') ?? [];
  if (times.length === 0) return null;
  const sum = (of: 'frames' | 'bytes') => times.reduce((n, time) => n + time[of], 0);
  return (
    <Box sx={{ py: 1.5, borderTop: `1px solid ${GROUND.raised}` }}>
      <Box sx={{ fontWeight: 560 }}>In the bin</Box>
      <Box sx={{ color: INK.soft }}>
        {many(sum('frames'), 'frame')}, {bytes(sum('bytes'))} on each of their drives, until the bin is
        emptied. <TextLink to="/bin">Bin</TextLink>
      </Box>
    </Box>
  );
}

function Shares({ space }: { space: Space }) {
  const years = useMemo(
    () => space.years.map(({ year, bytes: its }) => ({ name: year, bytes: its })),
    [space],
  );
  const drives = useMemo(
    () =>
      space.drives.map(({ name, role, bytes: its }) => ({
        name: `${name}, ${ROLE_WORDS[role]}`,
        bytes: its,
      })),
    [space],
  );
  const besides: [string, number, string][] = [
    ['Copies that lie with editing', space.handed, ''],
    ['Finished files in sets', space.finished, ''],
    ['Previews on this computer', space.previews, ` of at most ${bytes(space.previewsMost)}`],
  ];
  return (
    <>
      {space.years.length > 0 && (
        <Section title="By year">
          <SpaceChart bars={years} about="Bytes by year of the shoots, all copies." />
        </Section>
      )}
      {sumOf(space.all) > 0 && (
        <Section title="By drive">
          <SpaceChart bars={drives} about="Bytes by drive." along />
        </Section>
      )}
      <Section title="Besides">
        {besides.map(([words, size, more]) => (
          <Box key={words} sx={{ display: 'flex', gap: 2, py: 0.5, maxWidth: 560 }}>
            <Box sx={{ flex: 1 }}>{words}</Box>
            <Box sx={{ ...CAPTION, color: INK.soft }}>
              {bytes(size)}
              {more}
            </Box>
          </Box>
        ))}
      </Section>
      {space.shoots.length > 0 && <Largest space={space} />}
    </>
  );
}

function Largest({ space: { shoots, shootCount } }: { space: Space }) {
  const most = shoots[0]!.bytes;
  return (
    <Section
      title={shoots.length < shootCount ? `The ${count(shoots.length)} largest shoots` : 'Shoots by size'}
      aside={<TextLink to="/shoots">All {count(shootCount)}</TextLink>}
    >
      {shoots.map(({ id, title, date, frames, bytes: size }) => (
        <Box key={id} sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1.5, py: 0.75 }}>
          <Box sx={{ flex: '1 1 260px', minWidth: 0, overflowWrap: 'anywhere' }}>
            <TextLink to={`/shoots/${id}/files`}>{shownName(title)}</TextLink>{' '}
            <Box component="span" sx={{ ...CAPTION, color: INK.soft }}>
              {mediumDay(date)} · {many(frames, 'frame')}
            </Box>
          </Box>
          <Box sx={{ width: 180, height: 6, bgcolor: GROUND.raised }} aria-hidden>
            <Box sx={{ width: `${(size / most) * 100}%`, height: 6, bgcolor: INK.soft }} />
          </Box>
          <Box sx={{ ...CAPTION, width: 80, textAlign: 'right' }}>{bytes(size)}</Box>
        </Box>
      ))}
    </Section>
  );
}
