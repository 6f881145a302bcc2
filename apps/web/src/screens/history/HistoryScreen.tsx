import { Box, Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { shownName } from '@arkiv/core';
import { momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { labelNames } from '../../data/labels';
import { useSettings, useShoot } from '../../data/live';
import { useStages } from '../../data/stages';
import { useGet } from '../../data/useGet';
import { FrameThumbs } from '../../parts/FrameThumbs';
import { GrowingPages, type PageAsked } from '../../parts/GrowingPages';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { useQuery } from '../../parts/useQuery';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import type { Names } from '../carried/bothWords';
import { decisionWords, turnedWords, whoWords } from './decisionWords';

type Decision = Api['DecidedStepDto'];

const WHOSE = { all: 'All', studio: 'Made here', others: 'By programs and clients' } as const;

/** What was decided in a shoot, step by step; of one frame, or of others alone, where the address says so. */
export function HistoryScreen() {
  const { id } = useParams();
  const shootId = id!;
  const [query, set] = useQuery();
  const whose = query.get('whose') ?? 'all';
  const frame = query.get('frame') ?? '';
  const { data: shoot, error } = useShoot(shootId);
  const { data: settings } = useSettings();
  const stages = useStages();
  const names = useMemo((): Names => ({ labels: labelNames(settings), stages }), [settings, stages]);
  const asked = new URLSearchParams({
    ...(whose !== 'all' && { whose }),
    ...(frame && { frame }),
  }).toString();
  const title = shoot && shownName(shoot.title);
  return (
    <Page
      title="History"
      of={title}
      lead={
        <>
          What was decided {frame ? 'of one frame of' : 'in'} {title ?? 'this shoot'}, the newest first. Each
          step can be taken back by itself; what was changed since stays.{' '}
          <TextLink to={`/shoots/${shootId}/cull${frame && `?frame=${frame}`}`}>In Cull</TextLink>
        </>
      }
    >
      <Problem error={error} />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, mb: 1.5 }}>
        <ToggleButtonGroup
          exclusive
          size="small"
          aria-label="Whose decisions"
          value={whose}
          onChange={(_, value: string | null) => set('whose', value === 'all' ? '' : (value ?? whose))}
        >
          {Object.entries(WHOSE).map(([value, words]) => (
            <ToggleButton key={value} value={value}>
              {words}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {frame && (
          <Button size="small" variant="outlined" color="inherit" onClick={() => set('frame', '')}>
            Of all its frames
          </Button>
        )}
      </Box>
      <GrowingPages key={asked} page={(page) => <Decided {...page} {...{ shootId, asked, names }} />} />
    </Page>
  );
}

function Decided(props: PageAsked & { shootId: string; asked: string; names: Names }) {
  const { after, isFirst, onMore, shootId, asked, names } = props;
  // Where the page below this one begins: what is new comes above it, and leaves no gap between them.
  const [from, setFrom] = useState<number | null>(null);
  const words = [asked, after === null ? '' : `before=${after}`, from === null ? '' : `from=${from}`].filter(
    Boolean,
  );
  const { data, error } = useGet(`/shoots/${shootId}/decisions?${words.join('&')}`, {
    keepPreviousData: true,
  });
  if (!data) return error ? <Problem error={error} /> : <Loading what="what was decided" />;
  const more = () => {
    const last = data.decisions.at(-1)!.number;
    setFrom(last);
    onMore!(String(last));
  };
  return (
    <>
      {isFirst && data.decisions.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>Nothing of the kind was decided yet.</Typography>
      )}
      {data.decisions.length > 0 && (
        <Box role="list" aria-label="History">
          {data.decisions.map((decision) => (
            <Step key={decision.id} {...{ shootId, decision, names }} />
          ))}
        </Box>
      )}
      {data.more && onMore && (
        <Button color="inherit" sx={{ mt: 1.5 }} onClick={more}>
          Show earlier ones
        </Button>
      )}
    </>
  );
}

function Step({ shootId, decision, names }: { shootId: string; decision: Decision; names: Names }) {
  const { id, at, shown, frames, isUndone, turnedAt, canTurn } = decision;
  const [said, setSaid] = useState('');
  const { run, busy, error, again } = useAction(async (to: 'back' | 'again') => {
    const turned = await post(`/shoots/${shootId}/decisions/${id}`, { to });
    setSaid(turnedWords(turned, to === 'back'));
  });
  const what = decisionWords(decision, names);
  const who = whoWords(decision);
  const turned = turnedAt === null ? '' : `${isUndone ? 'taken back' : 'done again'} ${momentOf(turnedAt)}`;
  return (
    <Box
      role="listitem"
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '150px minmax(0, 1fr) auto' },
        columnGap: 2,
        rowGap: 0.5,
        alignItems: 'start',
        py: 1.25,
        borderBottom: `1px solid ${GROUND.raised}`,
      }}
    >
      <Box sx={{ ...CAPTION, color: INK.soft, pt: 0.25 }}>{momentOf(at)}</Box>
      <Box sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
        <Box sx={isUndone ? { color: INK.soft, textDecoration: 'line-through' } : undefined}>{what}</Box>
        {(who || turned) && (
          <Box sx={{ ...CAPTION, color: INK.soft }}>{[who, turned].filter(Boolean).join(' · ')}</Box>
        )}
        <Box role="status" sx={{ ...CAPTION, color: INK.full }}>
          {said}
        </Box>
        <Problem error={error} again={again} />
        {shown.length > 0 && (
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mt: 0.75 }}>
            <FrameThumbs frames={shown} />
            {frames > shown.length && (
              <Box sx={{ ...CAPTION, color: INK.soft }}>and {frames - shown.length} more</Box>
            )}
          </Box>
        )}
      </Box>
      {canTurn ? (
        <Button
          size="small"
          variant="outlined"
          color="inherit"
          // It keeps the focus: whoever goes by keys presses it once more.
          aria-busy={busy}
          aria-label={`${isUndone ? 'Do again' : 'Take back'}: ${what}`}
          onClick={() => !busy && run(isUndone ? 'again' : 'back')}
        >
          {isUndone ? 'Do again' : 'Take back'}
        </Button>
      ) : (
        <TextLink to="/vocabulary">In the vocabulary</TextLink>
      )}
    </Box>
  );
}
