import { Box, Button, Typography } from '@mui/material';
import { describe, shownName, stageAt, type Filter } from '@arkiv/core';
import { useCallback, useMemo, useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { count, many } from '../../data/format';
import { useSettings, useShoot } from '../../data/live';
import { useGet } from '../../data/useGet';
import { useScreenKeys } from '../../keys/useScreenKeys';
import type { SheetLayout } from '../../parts/ContactSheet';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { NoteLine } from '../cull/NoteLine';
import { CameBack, isAsked } from './CameBack';
import { CopyPart, PastPart } from './CopyPart';
import { StagedSheet } from './StagedSheet';
import { useHandoff, type Handoff } from './useHandoff';

/** Where each keeper stands between culling and delivery, and the copies that go to editing. */
export function HandoffScreen() {
  const { id } = useParams();
  return <HandoffShoot key={id} shootId={id!} />;
}

function HandoffShoot({ shootId }: { shootId: string }) {
  const handoff = useHandoff(shootId);
  const { data: about, error } = useShoot(shootId);
  const { shoot, keepers, stages, staged, at, targets, notice } = handoff;
  const [noting, setNoting] = useState(false);
  const { data: returns } = useGet(`/shoots/${shootId}/returns`);
  const { data: heard } = useGet(`/shoots/${shootId}/handoffs/heard`);
  const [asked, setAsked] = useState<string | null>(null);
  const ids = useMemo(() => targets.map(({ id }) => id), [targets]);
  const navigate = useNavigate();
  const layout = useRef<SheetLayout>({ across: 1, rows: 1 });
  const onLayout = useCallback((next: SheetLayout) => {
    layout.current = next;
  }, []);
  useScreenTitle(about ? `Hand-off · ${shownName(about.title)}` : 'Hand-off');
  useScreenKeys((names) => {
    const open = names.includes('w') ? returns?.find(isAsked) : undefined;
    if (open) {
      setAsked(open.assetId);
      return true;
    }
    if (staged.length === 0 && keepers.length === 0) return false;
    const { across, rows } = layout.current;
    const page = across * rows;
    const steps: Record<string, number> = {
      ...{ arrowright: 1, arrowleft: -1, arrowdown: across, arrowup: -across },
      ...{ pagedown: page, pageup: -page, home: -staged.length, end: staged.length },
    };
    const here = (): number => stages.findIndex(({ id }) => id === staged.stageOf(at)?.id);
    const deeds: Record<string, () => void> = {
      'ctrl+z': handoff.undo,
      'ctrl+shift+z': handoff.redo,
      '.': () => handoff.moveBy(1),
      ',': () => handoff.moveBy(-1),
      n: () => targets.length > 0 && setNoting(true),
      g: handoff.chooseStage,
      'alt+f': () => handoff.fold(Math.max(0, here())),
      'ctrl+a': handoff.chooseAll,
      escape: handoff.chooseOne,
      enter: () => {
        const frame = handoff.current;
        if (frame) void navigate(`/shoots/${shootId}/cull?view=single&frame=${frame.id}`);
      },
    };
    for (const name of names) {
      const extend = name.startsWith('shift+');
      const by = steps[extend ? name.slice('shift+'.length) : name];
      const to = /^[1-9]$/.test(name) ? Number(name) - 1 : -1;
      if (by !== undefined) handoff.step(by, extend);
      else if (to >= 0 && to < stages.length) handoff.moveTo(to);
      else if (deeds[name]) deeds[name]();
      else continue;
      return true;
    }
    return false;
  });
  // Once something is back, that comes first.
  const isBack = Boolean(returns?.length || heard?.frames || heard?.problems.length);
  const cameBack = (
    <CameBack shootId={shootId} frames={shoot.frames} keepers={keepers} asked={asked} onAsk={setAsked} />
  );
  if (!handoff.known)
    return (
      <Page title="Hand-off">
        <Problem error={shoot.failure ?? error} />
        {!shoot.failure && <Loading what="the keepers" />}
      </Page>
    );
  return (
    <Box
      component="main"
      sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr) auto auto', minHeight: 0, minWidth: 0 }}
    >
      <StageBar handoff={handoff} />
      <Box
        sx={{
          ...{ display: 'grid', minHeight: 0, gridTemplateColumns: 'minmax(0, 1fr) minmax(280px, 27%)' },
          // Where there is little room the whole of it scrolls.
          [NARROW]: { gridTemplateColumns: '1fr', gridTemplateRows: '60vh auto', overflow: 'auto' },
        }}
      >
        <Box sx={{ minHeight: 0, pl: 2, pt: 0.5 }}>
          {keepers.length === 0 ? (
            <NoKeepers shootId={shootId} />
          ) : (
            <StagedSheet handoff={handoff} onLayout={onLayout} />
          )}
        </Box>
        <Box
          sx={{
            ...{ overflow: 'auto', minHeight: 0, px: 2, py: 1.5, borderLeft: `1px solid ${GROUND.line}` },
            [NARROW]: { overflow: 'visible', borderLeft: 0 },
          }}
        >
          {isBack && cameBack}
          <CopyPart shootId={shootId} chosen={ids} />
          {!isBack && cameBack}
          <PastPart shootId={shootId} />
        </Box>
      </Box>
      {noting ? (
        <NoteLine
          key={targets[0]?.id}
          note={targets[0]?.note ?? null}
          spot={null}
          frames={targets.length}
          canPoint={false}
          onWrite={handoff.writeNote}
          onEnd={() => setNoting(false)}
        />
      ) : (
        <div />
      )}
      <Box
        sx={{
          ...{ display: 'flex', flexWrap: 'wrap', columnGap: 2, px: 2, py: 0.5 },
          ...{ color: INK.soft, fontSize: 12.5, borderTop: `1px solid ${GROUND.line}` },
        }}
      >
        <Box role="status" sx={{ color: INK.full, minHeight: 18 }}>
          {notice || (targets.length > 1 ? `${many(targets.length, 'frame')} chosen` : '')}
        </Box>
        <Box sx={{ ml: 'auto', [NARROW]: { display: 'none' } }}>
          1–{stages.length} to a stage · , . back, on · N note · W whose edit · G all of the stage · Alt F
          fold · Enter in Cull
        </Box>
      </Box>
    </Box>
  );
}

/** Where the frames that are meant are put, with how many are there. */
function StageBar({ handoff }: { handoff: Handoff }) {
  const { stages, staged, keepers, targets, moveTo } = handoff;
  const here = new Set(targets.map((frame) => stageAt(frame.stage, stages)));
  return (
    <Box
      sx={{
        ...{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 1.5, rowGap: 0.5 },
        ...{ px: 2, py: 1, borderBottom: `1px solid ${GROUND.line}` },
      }}
    >
      <Typography variant="h1" sx={{ fontSize: 19 }}>
        Hand-off
      </Typography>
      <Box sx={{ color: INK.soft }}>
        {many(keepers.length, 'keeper')}
        {targets.length > 0 && ` · move ${many(targets.length, 'frame')} to`}
      </Box>
      {keepers.length > 0 && (
        <Box
          role="group"
          aria-label={`Move ${many(targets.length, 'frame')} to`}
          sx={{ display: 'flex', flexWrap: 'wrap' }}
        >
          {stages.map(({ id, name }, i) => (
            <Button
              key={id}
              size="small"
              color="inherit"
              // Where all that are meant stand already there is nothing to move.
              disabled={targets.length === 0 || (here.size === 1 && here.has(i))}
              onClick={() => moveTo(i)}
              sx={{ px: 1.25, fontWeight: 400, '&.Mui-disabled': { color: INK.soft } }}
            >
              <Box component="kbd" sx={{ ...CAPTION, color: INK.faint, mr: 0.75 }}>
                {i < 9 ? i + 1 : ''}
              </Box>
              {name}
              <Box component="span" sx={{ color: INK.full, ml: 0.75, fontWeight: 640 }}>
                {count(staged.counts[i]!)}
              </Box>
            </Button>
          ))}
        </Box>
      )}
      <Box sx={{ flex: 1 }} />
      <TextLink to="/studio#stages">Stages …</TextLink>
    </Box>
  );
}

const NARROW = '@media (max-width: 800px)';

function NoKeepers({ shootId }: { shootId: string }) {
  const { data: settings } = useSettings();
  return (
    <Typography sx={{ p: 1 }}>
      No frame is a keeper by the studio’s rule
      {settings && ` (${describe(settings.rules.keeper as unknown as Filter)})`}.{' '}
      <TextLink to={`/shoots/${shootId}/cull`}>Cull first</TextLink>
    </Typography>
  );
}
