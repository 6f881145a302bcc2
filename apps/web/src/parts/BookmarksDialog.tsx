import { Box, Button, Dialog, DialogContent, DialogTitle, TextField, Typography } from '@mui/material';
import {
  useEffect,
  useEffectEvent,
  useId,
  useRef,
  useState,
  useSyncExternalStore,
  type KeyboardEvent,
} from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { Api } from '../data/http';
import { useSettings } from '../data/live';
import { changeSettings } from '../data/settings';
import { CAPTION, GROUND, INK } from '../theme/theme';
import { closeBookmarks, typedAhead } from './bookmarks';
import { placeKind, movedIn } from './bookmarkPlaces';
import { Problem } from './Problem';
import { screenTitle } from './screenTitle';
import { useAction } from './useAction';

type Kept = Api['KeptByNameDto'];
const NONE: readonly Kept[] = [];

/** Letters of a bookmark's name: one line of the list. */
const LONGEST = 60;
/** Bookmarks that a digit chooses. */
const DIGITS = 9;

/** Ways to shoots, folders, albums and searches, in one place: a digit or a click goes there. */
export function BookmarksDialog({ keys }: { keys: string }) {
  const titleId = useId();
  const { data: settings } = useSettings();
  const { pathname, search } = useLocation();
  const navigate = useNavigate();
  const title = useSyncExternalStore(screenTitle.subscribe, screenTitle.snapshot);
  const [name, setName] = useState(title);
  const list = useRef<HTMLDivElement>(null);
  const bookmarks = settings?.bookmarks ?? NONE;
  const searches = settings?.searches ?? NONE;
  const here = `${pathname}${search}`;
  const known = bookmarks.find(({ value }) => value.address === here);
  const { run: change, error } = useAction((next: (before: Kept[]) => Kept[]) =>
    changeSettings((now) => ({ bookmarks: next(now.bookmarks) })),
  );
  const go = (address: unknown): void => {
    closeBookmarks();
    void navigate(String(address));
  };
  const keep = (): void => {
    const words = name.trim();
    if (words === '') return;
    const one = { name: words, value: { address: here } };
    change((before) => [...before.filter((its) => its.name !== words && its.value.address !== here), one]);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const typed = event.target instanceof HTMLInputElement;
    const buttons = [...(list.current?.querySelectorAll<HTMLElement>('[data-go]') ?? [])];
    const at = buttons.indexOf(document.activeElement as HTMLElement);
    if (!typed && /^[1-9]$/.test(event.key) && !event.ctrlKey && !event.altKey) {
      const one = bookmarks[Number(event.key) - 1];
      if (one) go(one.value.address);
    } else if (event.key === 'ArrowDown') buttons[Math.min(buttons.length - 1, at + 1)]?.focus();
    else if (event.key === 'ArrowUp' && at > 0) buttons[at - 1]?.focus();
    else return;
    event.preventDefault();
  };
  const goAhead = useEffectEvent(() => {
    const meant = bookmarks[Number(typedAhead() ?? NaN) - 1];
    if (meant) go(meant.value.address);
  });
  // The digits are the list's from the start.
  useEffect(() => {
    const first = list.current?.querySelector<HTMLElement>('[data-go]');
    (first ?? list.current)?.focus();
    goAhead();
    // Once, when it opens.
  }, []);
  return (
    <Dialog
      open
      onClose={closeBookmarks}
      fullWidth
      maxWidth="sm"
      aria-labelledby={titleId}
      onKeyDown={onKeyDown}
      slotProps={{ paper: { sx: { borderRadius: 0 } } }}
    >
      <DialogTitle id={titleId}>
        Bookmarks{' '}
        <Box component="kbd" sx={{ ...CAPTION, color: INK.faint }}>
          {keys}
        </Box>
      </DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2 }}>
        <div ref={list} tabIndex={-1} style={{ outline: 'none' }}>
          {bookmarks.length === 0 && (
            <Typography sx={{ color: INK.soft }}>
              None yet. Keep a shoot, an album or a search here, and it is one key and a digit away.
            </Typography>
          )}
          {bookmarks.map((one, i) => (
            <Box key={one.name} sx={{ display: 'flex', alignItems: 'center' }}>
              <Way
                digit={i < DIGITS ? String(i + 1) : ''}
                words={one.name}
                kind={placeKind(String(one.value.address))}
                here={one === known}
                onGo={() => go(one.value.address)}
              />
              <Button
                size="small"
                color="inherit"
                disabled={i === 0}
                aria-label={`${one.name}: one up`}
                onClick={() => change((before) => movedIn(before, i, -1))}
              >
                Up
              </Button>
              <Button
                size="small"
                color="inherit"
                aria-label={`Forget ${one.name}`}
                onClick={() => change((before) => before.filter((its) => its.name !== one.name))}
              >
                Forget
              </Button>
            </Box>
          ))}
          {searches.length > 0 && (
            <Box
              component="h3"
              sx={{ ...CAPTION, color: INK.soft, fontSize: 14, fontWeight: 480, mt: 2, mb: 0.5 }}
            >
              Kept searches
            </Box>
          )}
          {searches.map(({ name: words, value }) => (
            <Way
              key={words}
              digit=""
              words={words}
              kind="search"
              onGo={() => go(`/find?${String(value.text)}`)}
            />
          ))}
        </div>
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
          sx={{ display: 'flex', gap: 1, pt: 1, borderTop: `1px solid ${GROUND.line}` }}
        >
          <TextField
            label={known ? `This place is kept as “${known.name}”; under another name` : 'Keep this place as'}
            value={name}
            fullWidth
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: LONGEST }, inputLabel: { shrink: true } }}
            sx={{ mt: 1 }}
          />
          <Button type="submit" variant="contained" disabled={name.trim() === ''} sx={{ mt: 1 }}>
            Keep
          </Button>
        </Box>
        <Problem error={error} />
      </DialogContent>
    </Dialog>
  );
}

function Way(props: { digit: string; words: string; kind: string; here?: boolean; onGo: () => void }) {
  const { digit, words, kind, here, onGo } = props;
  return (
    <Box
      component="button"
      type="button"
      data-go
      aria-current={here ? 'page' : undefined}
      onClick={onGo}
      sx={{
        ...{ display: 'flex', gap: 1.5, alignItems: 'baseline', flex: 1, width: '100%', minWidth: 0 },
        ...{
          font: 'inherit',
          textAlign: 'left',
          color: INK.full,
          background: 'none',
          border: 0,
          py: 0.75,
          px: 1,
        },
        ...{ cursor: 'pointer', '&:hover, &:focus-visible': { bgcolor: GROUND.line } },
      }}
    >
      <Box component="kbd" sx={{ ...CAPTION, width: 12, color: INK.soft }}>
        {digit}
      </Box>
      <Box component="span" sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis' }}>
        {words}
      </Box>
      <Box component="span" sx={{ color: INK.faint }}>
        {here ? 'here' : kind}
      </Box>
    </Box>
  );
}
