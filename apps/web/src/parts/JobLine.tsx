import { Box } from '@mui/material';
import { shownName, stageAt, standingOf, type KeeperRules } from '@arkiv/core';
import { memo, useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from 'react';
import { NavLink, useMatch } from 'react-router';
import { count, many } from '../data/format';
import { useReaders, useSettings, useShoot, useShootTotals } from '../data/live';
import type { LoadedFrame } from '../data/frames';
import { useStages } from '../data/stages';
import { shootStore } from '../data/shootStore';
import { Tally, tallyKey } from '../data/tally';
import { GROUND, INK, MARKER } from '../theme/theme';
import { openBookmarks } from './bookmarks';
import { FindBox } from './FindBox';
import { GuideLink } from './GuideLink';
import { JobsPanel } from './JobsPanel';
import { BESIDE_STEPS, WORDS } from './lineWidths';
import { nameWindows } from './screenTitle';

/** Which archive it is stands over every screen; a long name leaves the steps their room. */
const ARCHIVE_NAME = {
  ...{ display: 'block', maxWidth: 170, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
};

const Step = memo(function Step({
  to,
  children,
  note,
  end,
  wide = false,
}: {
  to: string;
  children: ReactNode;
  note?: string | false;
  end?: boolean;
  /** its note waits for a window that has room beside the steps of a shoot and a job at work */
  wide?: boolean;
}) {
  return (
    <NavLink to={to} end={end} style={{ textDecoration: 'none', color: 'inherit' }}>
      {({ isActive }) => (
        <Box
          component="span"
          sx={{
            display: 'inline-flex',
            alignItems: 'center',
            gap: 0.75,
            height: 48,
            px: { xs: 0.75, sm: 1 },
            [BESIDE_STEPS]: { px: 1.5 },
            whiteSpace: 'nowrap',
            color: isActive ? INK.full : INK.soft,
            fontWeight: isActive ? 680 : 480,
            boxShadow: isActive ? `inset 0 -3px 0 ${INK.full}` : 'none',
            '&:hover': { color: INK.full, bgcolor: GROUND.base },
          }}
        >
          {children}
          {note && (
            <Box
              component="span"
              sx={{
                color: INK.faint,
                fontWeight: 480,
                display: 'none',
                [wide ? BESIDE_STEPS : WORDS]: { display: 'inline' },
              }}
            >
              {note}
            </Box>
          )}
        </Box>
      )}
    </NavLink>
  );
});

/** The line over every screen: the steps of the job in working order, with what is left in each. */
export function JobLine() {
  const shootId = useMatch('/shoots/:id/*')?.params.id;
  const { data: readers } = useReaders();
  const { data: totals } = useShootTotals();
  const { data: settings } = useSettings();
  const archive = settings?.archive.name ?? 'Arkiv';
  useEffect(() => nameWindows(archive), [archive]);
  const cards = readers?.filter((r) => r.card).length ?? 0;
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        alignItems: 'center',
        bgcolor: GROUND.deep,
        borderBottom: `1px solid ${GROUND.line}`,
        pl: 2,
        minWidth: 0,
      }}
    >
      <NavLink
        to="/"
        aria-label={`${archive}, to the Desk`}
        style={{
          display: 'flex',
          alignItems: 'center',
          textDecoration: 'none',
          color: INK.full,
          fontWeight: 760,
          fontSize: 15,
          gap: 8,
        }}
      >
        <svg width="20" height="20" viewBox="0 0 32 32" aria-hidden="true">
          <path
            d="M6 16.500C5.400 8.700 11.700 4.700 17.600 5.200c6.900.5 10.500 5.300 9.800 11.600-.7 6.400-6.300 10.200-12 9.700C9.200 26 5.400 21.900 6.300 14.500"
            fill="none"
            stroke={MARKER}
            strokeWidth="3"
            strokeLinecap="round"
          />
        </svg>
        <Box component="span" title={archive} sx={{ display: 'none', [WORDS]: ARCHIVE_NAME }}>
          {archive}
        </Box>
      </NavLink>
      <Box
        component="nav"
        aria-label="Steps"
        sx={{
          ...{ display: 'flex', ml: { xs: 1, lg: 2 }, minWidth: 0 },
          // Where they have no room they are pushed along rather than laid over what stands beside them.
          ...{ overflowX: 'auto', scrollbarWidth: 'none' },
        }}
      >
        <Step to="/" end note={cards > 0 && many(cards, 'card')} wide={shootId !== undefined}>
          Desk
        </Step>
        <Step to="/shoots" end note={totals && count(totals.shoots)} wide={shootId !== undefined}>
          Shoots
        </Step>
        <Step to="/albums">Albums</Step>
        {shootId && <OneShoot id={shootId} />}
      </Box>
      <Box sx={{ flex: 1 }} />
      <FindBox />
      <Box
        component="button"
        type="button"
        onClick={openBookmarks}
        sx={{
          ...{ height: 48, px: 1.5, border: 0, background: 'none', font: 'inherit', color: INK.soft },
          ...{ cursor: 'pointer', '&:hover': { color: INK.full, bgcolor: GROUND.base } },
          // Beside the steps of a shoot it waits for a wide window; its key is the same everywhere.
          display: 'none',
          [shootId ? BESIDE_STEPS : WORDS]: { display: 'block' },
        }}
      >
        Bookmarks
      </Box>
      <Box component="nav" aria-label="Settings">
        <Step to="/studio">Studio</Step>
      </Box>
      <GuideLink />
      <JobsPanel />
    </Box>
  );
}

/** By itself: a shoot's numbers change with each mark, and the rest of the line need not be drawn anew. */
function OneShoot({ id }: { id: string }) {
  const title = useShoot(id).data?.title;
  if (title === undefined) return null;
  return (
    <>
      <Box
        sx={{
          alignSelf: 'center',
          display: 'none',
          [WORDS]: { display: 'block' },
          mx: 1.5,
          flex: '0 1 auto',
          minWidth: 40,
          maxWidth: 220,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
          color: INK.full,
          fontStretch: '85%',
          borderLeft: `1px solid ${GROUND.line}`,
          pl: 2,
        }}
      >
        {shownName(title)}
      </Box>
      <ShootSteps id={id} />
    </>
  );
}

/** Counts come from the frames in this window, so that they move with the key. */
const ShootSteps = memo(function ShootSteps({ id }: { id: string }) {
  const store = shootStore(id);
  const shown = useSyncExternalStore(store.subscribe, store.snapshot);
  const { data: settings } = useSettings();
  // Nothing is said while it is on its way: “0 left” would mean that all is done.
  const known = shown.loaded && settings !== undefined;
  const rules = settings?.rules as unknown as KeeperRules | undefined;
  const stages = useStages();
  const standing = useMemo(
    () => (frame: LoadedFrame) => {
      if (!rules) return [];
      const its = standingOf(rules, frame);
      const at = its === 'keeper' ? stageAt(frame.stage, stages) : -1;
      return [[tallyKey('standing', its), tallyKey('stage', at)]];
    },
    [rules, stages],
  );
  const [tally] = useState(() => new Tally());
  const counts = tally.of(shown, standing);
  const [keepers, left] = [counts.of('standing', 'keeper'), counts.of('standing', 'left')];
  const toDo = keepers - counts.of('stage', stages.length - 1);
  // Before any keeper has left the first stage, all of them are to be done.
  const begun = stages.length > 1 && counts.of('stage', 0) < keepers;
  return (
    <>
      <Step to={`/shoots/${id}/cull`} note={known && `${count(left)} left`}>
        Cull
      </Step>
      <Step to={`/shoots/${id}/describe`}>Describe</Step>
      <Step to={`/shoots/${id}/handoff`} note={known && (begun ? `${count(toDo)} left` : count(keepers))}>
        Hand-off
      </Step>
      <DeliverStep id={id} />
      <Step to={`/shoots/${id}/files`}>Files</Step>
    </>
  );
});

const DeliverStep = memo(function DeliverStep({ id }: { id: string }) {
  const sets = useShoot(id).data?.deliveries ?? 0;
  return (
    <Step to={`/shoots/${id}/deliver`} note={sets > 0 && many(sets, 'set')}>
      Deliver
    </Step>
  );
});
