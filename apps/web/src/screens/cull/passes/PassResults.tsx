import { Box, Typography } from '@mui/material';
import { bodyNames, type KeeperRules } from '@arkiv/core';
import { lazy, Suspense, useMemo } from 'react';
import { useGet } from '../../../data/useGet';
import type { ShootState } from '../../../data/shootStore';
import { Loading } from '../../../parts/Loading';
import { Problem } from '../../../parts/Problem';
import { decisionsOverTime, keptShares, type Share } from './passResults';

// Seldom looked at: nobody else loads what draws charts.
const PassChart = lazy(() => import('./PassChart').then((m) => ({ default: m.PassChart })));

/** What came of a pass: decisions over time, and what was kept of each hour and body. */
export function PassResults({ id, shoot, rules }: { id: string; shoot: ShootState; rules: KeeperRules }) {
  const { data: pass, error } = useGet(`/passes/${id}`);
  const { data: decisions, error: failed } = useGet(`/passes/${id}/decisions`);
  const charts = useMemo(() => {
    if (!pass || !decisions) return null;
    const frames = pass.frames.flatMap((frame) => shoot.byId.get(frame) ?? []);
    const over = decisionsOverTime(decisions.map(({ at }) => at));
    const minutes = (i: number) => `${Math.round((i * over.stretchMillis) / 6000) / 10} min`;
    return {
      over: over.counts.map((value, i) => ({ words: minutes(i), value })),
      hours: asBars(keptShares(frames, rules, ({ time }) => (time ? `${time.slice(11, 13)}:00` : 'no time'))),
      bodies: asBars(
        keptShares(frames, rules, ({ body }) => (body ? (bodyNames([body]).get(body) ?? body) : 'unknown')),
      ),
    };
  }, [pass, decisions, shoot, rules]);
  if (!charts)
    return (
      <>
        <Problem error={error ?? failed} />
        {!(error ?? failed) && <Loading what="what came of it" />}
      </>
    );
  return (
    <Suspense fallback={<Loading what="what came of it" />}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '2fr 1fr 1fr', gap: 3, my: 1.5 }}>
        <Part words="Decisions over time" none={charts.over.length === 0 && 'None was made.'}>
          <PassChart label="Decisions over time" bars={charts.over} most={null} />
        </Part>
        <Part words="Kept of each hour, %">
          <PassChart label="Kept of each hour, in per cent" bars={charts.hours} most={100} />
        </Part>
        <Part words="Kept of each body, %">
          <PassChart label="Kept of each body, in per cent" bars={charts.bodies} most={100} />
        </Part>
      </Box>
    </Suspense>
  );
}

const asBars = (shares: readonly Share[]) =>
  shares.map(({ words, kept, frames }) => ({ words, value: Math.round((kept / frames) * 100) }));

function Part({
  words,
  none = false,
  children,
}: {
  words: string;
  none?: string | false;
  children: React.ReactNode;
}) {
  return (
    <Box sx={{ minWidth: 0 }}>
      <Typography sx={{ fontSize: 13, color: 'text.secondary', mb: 0.5 }}>{words}</Typography>
      {none ? <Typography>{none}</Typography> : children}
    </Box>
  );
}
