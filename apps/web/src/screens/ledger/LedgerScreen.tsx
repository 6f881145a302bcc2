import { Box, TextField } from '@mui/material';
import { lazy, Suspense } from 'react';
import { useSearchParams } from 'react-router';
import { shownName } from '@arkiv/core';
import { count, many } from '../../data/format';
import { useLedgerYear, useLedgerYears, type LedgerShown } from '../../data/ledger';
import { useShoot } from '../../data/live';
import { useGet } from '../../data/useGet';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { INK } from '../../theme/theme';
import { LedgerEntries } from './LedgerEntries';

const YearChart = lazy(() => import('./YearChart').then((m) => ({ default: m.YearChart })));

/** Who got which frame, in which form, when; of one shoot, client or frame where the address says so. */
export function LedgerScreen() {
  const [query, setQuery] = useSearchParams();
  const [client, shootId, frameId, year] = ['client', 'shoot', 'frame', 'year'].map(
    (name) => query.get(name) ?? undefined,
  );
  const { data: years, error } = useLedgerYears();
  const { data: clients } = useGet('/shoots/groups?by=client');
  const { data: shoot } = useShoot(shootId);
  const set = (name: string, value: string) =>
    setQuery((now) => {
      const next = new URLSearchParams(now);
      if (value === '') next.delete(name);
      else next.set(name, value);
      return next;
    });
  const shown: LedgerShown = {
    ...(client && { client }),
    ...(shootId && { shootId }),
    ...(frameId && { frameId }),
    ...(year && { year }),
  };
  const of = frameId
    ? 'of this frame'
    : shoot
      ? `of ${shownName(shoot.title)}`
      : client
        ? `to ${client}`
        : '';
  return (
    <Page
      title="Ledger"
      of={shoot && shownName(shoot.title)}
      lead={
        frameId || shootId ? (
          <>
            What went out {of}. <TextLink to="/ledger">All that went out</TextLink>
          </>
        ) : (
          'Who got which frame, in which form, when. What went out stays here, whatever becomes of the files.'
        )
      }
      actions={
        !frameId &&
        !shootId && (
          <Box sx={{ display: 'flex', gap: 1.5 }}>
            <Choice
              label="Year"
              value={year ?? ''}
              all="all years"
              of={years ?? []}
              onChange={(value) => set('year', value)}
            />
            <Choice
              label="Client"
              value={client ?? ''}
              all="all clients"
              of={(clients ?? []).map(({ name }) => name).filter((name) => name !== '')}
              onChange={(value) => set('client', value)}
            />
          </Box>
        )
      }
    >
      <Problem error={error} />
      {!frameId && !shootId && !client && years && years.length > 0 && <Year year={year ?? years[0]!} />}
      <Section title="What went out">
        <LedgerEntries shown={shown} of={of} />
      </Section>
    </Page>
  );
}

function Year({ year }: { year: string }) {
  const { data: months, error } = useLedgerYear(year);
  const sum = (of: 'frames' | 'keepers' | 'delivered') =>
    (months ?? []).reduce((all, one) => all + one[of], 0);
  return (
    <Section title={year}>
      <Problem error={error} />
      {months && (
        <>
          <Box sx={{ mb: 1 }}>
            {many(sum('frames'), 'frame')} taken, {count(sum('keepers'))} kept, {count(sum('delivered'))}{' '}
            delivered.{' '}
            <TextLink to={`/find?${new URLSearchParams({ q: `keepers delivered:none ${year}` })}`}>
              Keepers that were never delivered
            </TextLink>
          </Box>
          <Suspense fallback={<Box sx={{ height: 180, color: INK.faint }} />}>
            <YearChart months={months} />
          </Suspense>
        </>
      )}
    </Section>
  );
}

function Choice(props: {
  label: string;
  value: string;
  all: string;
  of: readonly string[];
  onChange: (value: string) => void;
}) {
  const { label, value, all, of, onChange } = props;
  return (
    <TextField
      select
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      sx={{ minWidth: 150 }}
    >
      <option value="">{all}</option>
      {of.map((one) => (
        <option key={one} value={one}>
          {one}
        </option>
      ))}
    </TextField>
  );
}
