import { Box, TextField, Typography } from '@mui/material';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { many } from '../../data/format';
import { useShootTotals } from '../../data/live';
import { Page } from '../../parts/Page';
import { PassOver } from '../../parts/PassOver';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useKeptState } from '../../parts/useKeptState';
import { YearLine } from '../../parts/YearLine';
import { GROUND, INK } from '../../theme/theme';
import { Calendar } from './Calendar';
import { ShootGroups } from './ShootGroups';
import { ShootsOfYear } from './ShootsOfYear';
import { walkShoots } from './walkShoots';

const VIEWS = { time: 'By time', client: 'By client', place: 'By place', calendar: 'Calendar' } as const;
type View = keyof typeof VIEWS;

/** Shoots up to which all years are open: an archive of some screens hides nothing. */
const ALL_OPEN = 60;

/** All shoots: by year, month and day, by client, by place, or as the days of a year. */
export function ShootsScreen() {
  const [query, setQuery] = useSearchParams();
  const asked = query.get('by') ?? 'time';
  const view: View = asked in VIEWS ? (asked as View) : 'time';
  const [text, setText] = useState('');
  // The field answers at once; the list follows when the typing rests.
  const find = useDeferredValue(text.trim());
  const { data: totals, error } = useShootTotals(find);
  const { data: all } = useShootTotals();
  return (
    <Page
      title="Shoots"
      lead={
        totals && (
          <>
            {many(totals.shoots, 'shoot')}, {many(totals.frames, 'frame')}.{' '}
            <TextLink to="/ledger">Ledger of what went out</TextLink>
          </>
        )
      }
      actions={
        <>
          {view === 'time' && totals && totals.frames > 0 && (
            <PassOver
              words={
                find === ''
                  ? `all ${many(totals.shoots, 'shoot')}`
                  : `${many(totals.shoots, 'shoot')} with “${find}”`
              }
              over={{ find }}
            />
          )}
          {view !== 'calendar' && (
            <TextField
              label={view === 'time' ? 'Title, client or place' : 'Name'}
              value={text}
              onChange={(e) => setText(e.target.value)}
              onKeyDown={(e) => e.key === 'Escape' && setText('')}
              sx={{ width: 260 }}
            />
          )}
        </>
      }
    >
      <Problem error={error} />
      {all?.shoots === 0 ? (
        <Typography sx={{ color: 'text.secondary' }}>
          Nothing is archived yet. <TextLink to="/">Take in a card from the Desk</TextLink>
        </Typography>
      ) : (
        <>
          <Views view={view} onView={(by) => setQuery(by === 'time' ? {} : { by })} />
          {view === 'time' && <ByTime find={find} typed={text} />}
          {(view === 'client' || view === 'place') && <ShootGroups key={view} by={view} find={find} />}
          {view === 'calendar' && <Calendar />}
        </>
      )}
    </Page>
  );
}

function Views({ view, onView }: { view: View; onView: (view: View) => void }) {
  return (
    <Box
      role="group"
      aria-label="How shoots stand"
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mb: 2 }}
    >
      {(Object.keys(VIEWS) as View[]).map((one) => (
        <Box
          key={one}
          component="button"
          type="button"
          aria-pressed={one === view}
          onClick={() => onView(one)}
          sx={{
            ...{ font: 'inherit', px: 1.5, py: 0.5, cursor: 'pointer', border: `1px solid ${GROUND.line}` },
            color: one === view ? INK.full : INK.soft,
            bgcolor: one === view ? GROUND.line : 'transparent',
            '&:hover': { color: INK.full },
          }}
        >
          {VIEWS[one]}
        </Box>
      ))}
    </Box>
  );
}

function ByTime({ find, typed }: { find: string; typed: string }) {
  const { data: totals } = useShootTotals(find);
  const { data: all } = useShootTotals();
  const [folds, setFolds] = useKeptState<Record<string, boolean>>('shoots.years', {});
  const [wanted, setWanted] = useState<string | null>(null);
  const years = useMemo(() => {
    const known = new Map<string, { shoots: number; frames: number }>();
    for (const { month, shoots, frames } of totals?.months ?? []) {
      const year = known.get(month.slice(0, 4)) ?? { shoots: 0, frames: 0 };
      known.set(month.slice(0, 4), { shoots: year.shoots + shoots, frames: year.frames + frames });
    }
    return [...known].sort(([a], [b]) => b.localeCompare(a));
  }, [totals]);
  const few = (totals?.shoots ?? 0) <= ALL_OPEN;
  const isOpen = (year: string, i: number): boolean => folds[year] ?? (few || i === 0);
  const fold = (year: string, open: boolean): void => setFolds((now) => ({ ...now, [year]: open }));
  // Years of another search begin as they come.
  useEffect(() => {
    if (find !== '') setFolds({});
  }, [find, setFolds]);
  if (!totals) return null;
  if (all && all.shoots > 0 && totals.shoots === 0)
    return (
      <Typography sx={{ color: 'text.secondary' }}>
        None of {many(all.shoots, 'shoot')} has “{typed}” in its title, client or place. Escape in the field
        shows all.
      </Typography>
    );
  return (
    <Box onKeyDown={walkShoots}>
      <YearLine
        months={totals.months}
        onMonth={(month) => {
          fold(month.slice(0, 4), true);
          setWanted(month);
        }}
      />
      {years.map(([year, { shoots, frames }], i) => (
        <ShootsOfYear
          key={year}
          year={year}
          find={find}
          aside={`${many(shoots, 'shoot')} · ${many(frames, 'frame')}`}
          months={totals.months}
          open={isOpen(year, i)}
          onOpen={(open) => fold(year, open)}
          wanted={wanted?.startsWith(year) ? wanted : null}
          onThere={() => setWanted(null)}
        />
      ))}
    </Box>
  );
}
