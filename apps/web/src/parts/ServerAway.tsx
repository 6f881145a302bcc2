import { Box, Button } from '@mui/material';
import { useSyncExternalStore, type ReactNode } from 'react';
import { many } from '../data/format';
import { serverState } from '../data/serverState';
import { markQueue } from '../data/shootStore';
import { GROUND, INK, STRIKE_TEXT } from '../theme/theme';

const clock = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' });

/** On every screen, at once: that the server is away, what waits for it, and what it refused. Silent while all is well. */
export function ServerAway() {
  const since = useSyncExternalStore(serverState.subscribe, serverState.awaySince);
  const trouble = useSyncExternalStore(markQueue.subscribe, () => markQueue.snapshot().trouble);
  const aside = useSyncExternalStore(markQueue.subscribe, () => markQueue.snapshot().aside);
  // While all is well a mark waits for some milliseconds: nothing is said of it, and nothing drawn.
  const waiting = useSyncExternalStore(markQueue.subscribe, () =>
    since !== null || trouble !== null ? markQueue.snapshot().waiting : 0,
  );
  const wait = many(waiting, 'mark waits', 'marks wait');
  return (
    <Box role="status" sx={{ minHeight: 0 }}>
      {since !== null ? (
        <Line words={`The server is away since ${clock.format(since)}.`}>
          {waiting > 0
            ? `${wait} in this browser and ${waiting === 1 ? 'goes' : 'go'} when it is back.`
            : 'What you mark is kept in this browser and goes when it is back.'}
        </Line>
      ) : (
        trouble !== null &&
        waiting > 0 && (
          <Line words={`${wait} in this browser.`} action="Try now" onAction={() => markQueue.retry()}>
            {trouble}
          </Line>
        )
      )}
      {aside.length > 0 && (
        <Line
          words={`${many(aside.length, 'mark was', 'marks were')} refused.`}
          action="Let go of them"
          onAction={() => void markQueue.dropAside()}
        >
          {[...new Set(aside.map(({ reason }) => reason))].join(' ')}
        </Line>
      )}
    </Box>
  );
}

function Line({
  words,
  children,
  action,
  onAction,
}: {
  words: string;
  children: ReactNode;
  action?: string;
  onAction?: () => void;
}) {
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        px: 2.5,
        minHeight: 34,
        bgcolor: GROUND.raised,
        borderBottom: `1px solid ${GROUND.line}`,
      }}
    >
      <Box component="span" sx={{ color: STRIKE_TEXT }}>
        {words}
      </Box>
      <Box component="span" sx={{ color: INK.full, flex: 1 }}>
        {children}
      </Box>
      {action && (
        <Button size="small" color="inherit" onClick={onAction}>
          {action}
        </Button>
      )}
    </Box>
  );
}
