import { Box, Button, ButtonBase, TextField } from '@mui/material';
import { useState, type KeyboardEvent } from 'react';
import { many } from '../../data/format';
import { numberOf, previewUrl, type LoadedFrame } from '../../data/frames';
import { put, type Api } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { WideDialog } from '../../parts/WideDialog';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { jumpTo } from '../cull/jump';

type Candidate = Pick<Api['ReturnedFrameDto'], 'id' | 'name' | 'picture'>;

/** What was looked for stands before what may be, each once. */
export const withSought = <T extends { id: string }>(sought: readonly T[], given: readonly T[]): T[] => [
  ...sought.filter(({ id }) => !given.some((one) => one.id === id)),
  ...given,
];

/** Small pictures on either side of the one that is looked at: more no screen shows. */
const BESIDE = 20;

/** An edit beside the frames of which it may be: one key says which, or that it is of several, or of none. */
export function WhoseEdit(props: {
  its: Api['ReturnDto'];
  /** all frames of the shoot, in order of time */
  frames: readonly LoadedFrame[];
  /** those that went to editing: what nothing tells of is one of them, as a rule */
  keepers: readonly LoadedFrame[];
  onDone: () => Promise<void>;
  onClose: () => void;
}) {
  const { its, frames, keepers, onDone, onClose } = props;
  const [sought, setSought] = useState<readonly Candidate[]>([]);
  const [several, setSeveral] = useState<ReadonlySet<string>>(
    () => new Set(its.originals.length > 1 ? its.originals.map(({ id }) => id) : []),
  );
  // What is offered comes while the edit is still being looked at; it changes no more once somebody has gone to one of them.
  const [held, setHeld] = useState<readonly Candidate[] | null>(null);
  const told: readonly Candidate[] = held ?? [...its.among, ...its.originals];
  // Where nothing tells whose it is, all that may be are gone through.
  const isOpen = told.length === 0;
  // Nobody is the likeliest then: none is meant before one is gone to.
  const [goneTo, setGoneTo] = useState<number | null>(null);
  const at = goneTo ?? (isOpen ? -1 : 0);
  const setAt = (to: number) => {
    setHeld(told);
    setGoneTo(to);
  };
  const given = isOpen ? keepers : told;
  const all = withSought(sought, given);
  const place = Math.max(0, Math.min(at, all.length - 1));
  const current = at < 0 ? undefined : all[place];
  const first = Math.max(0, place - BESIDE);
  const { run, busy, error, again } = useAction(async (frameIds: string[]) => {
    await put(`/returns/${its.assetId}/originals`, { frameIds });
    await onDone();
  });
  const say = () => {
    if (several.size > 0) run(all.flatMap(({ id }) => (several.has(id) ? id : [])));
    else if (current) run([current.id]);
  };
  const toggle = (id: string) => {
    setHeld(told);
    setSeveral((now) => {
      const next = new Set(now);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  };
  const find = (text: string) => {
    const found = jumpTo(text, frames.length, (i) => frames[i]!, -1);
    if (found < 0) return;
    // The one that was looked for, with its neighbours: who types a number is rarely far off.
    const around = frames.slice(Math.max(0, found - 2), found + 4);
    setSought(around.map(({ id, name, picture }) => ({ id, name, picture })));
    setAt(withSought(around, given).findIndex(({ id }) => id === frames[found]!.id));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement || event.ctrlKey || event.altKey || event.metaKey) return;
    const digit = /^[1-9]$/.test(event.key) ? Number(event.key) - 1 : -1;
    if (event.key === 'ArrowRight' || event.key === 'ArrowLeft')
      setAt(Math.max(0, Math.min(all.length - 1, at + (event.key === 'ArrowRight' ? 1 : -1))));
    else if (!isOpen && digit >= 0 && digit < all.length) run([all[digit]!.id]);
    else if (event.key === '0') run([]);
    else if (event.key === ' ' && current) toggle(current.id);
    else if (event.key.toLowerCase() === 'a' && !isOpen && all.length > 1)
      setSeveral(new Set(all.map(({ id }) => id)));
    else if (event.key === 'Enter' && !(event.target instanceof HTMLButtonElement)) say();
    else return;
    event.preventDefault();
  };
  return (
    <WideDialog title={`Whose edit is ${its.name}?`} width={1180} onClose={onClose}>
      <Box
        role="group"
        aria-label="Frames of which it may be"
        tabIndex={-1}
        ref={focusOnce}
        onKeyDown={onKeyDown}
        sx={{
          ...{ display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto auto', gap: 1.5, px: 3, pb: 2 },
          ...{ flex: 1, minHeight: 0, outline: 'none' },
        }}
      >
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, minHeight: 0 }}>
          <Large picture={its.picture} words={`came back: ${its.name}`} />
          <Large
            picture={current?.picture ?? null}
            words={current?.name ?? 'no frame yet: go through the keepers by →, or type a number below'}
          />
        </Box>
        <Box
          role="listbox"
          aria-label="Frames"
          aria-multiselectable
          sx={{ display: 'flex', gap: 0.75, overflowX: 'auto' }}
        >
          {all.slice(first, place + BESIDE + 1).map((frame, n) => (
            <ButtonBase
              key={frame.id}
              ref={frame.id === current?.id ? intoView : undefined}
              role="option"
              tabIndex={-1}
              aria-selected={several.size > 0 ? several.has(frame.id) : frame.id === current?.id}
              onClick={(event) => (event.ctrlKey || event.shiftKey ? toggle(frame.id) : setAt(first + n))}
              onDoubleClick={() => run([frame.id])}
              sx={{
                ...{ flex: '0 0 auto', display: 'grid', p: 0.5, border: '2px solid transparent' },
                ...(frame.id === current?.id && { borderColor: INK.full }),
                ...(several.has(frame.id) && { bgcolor: GROUND.raised }),
              }}
            >
              <Box
                sx={{ width: 108, height: 72, display: 'grid', placeItems: 'center', bgcolor: GROUND.deep }}
              >
                {frame.picture && (
                  <img
                    src={previewUrl(frame.picture, 'thumb')}
                    alt=""
                    style={{ maxWidth: 108, maxHeight: 72 }}
                  />
                )}
              </Box>
              <Box sx={{ ...CAPTION, color: INK.soft }}>
                {!isOpen && first + n < 9 && `${first + n + 1} · `}
                {numberOf(frame.name)}
                {several.has(frame.id) && ' · chosen'}
              </Box>
            </ButtonBase>
          ))}
        </Box>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1.25 }}>
          <Button variant="contained" disabled={busy || (!current && several.size === 0)} onClick={say}>
            {several.size > 1
              ? `Of these ${several.size} frames`
              : current
                ? `Of ${numberOf((several.size === 1 && all.find(({ id }) => several.has(id))?.name) || current.name)}`
                : 'Of this one'}
          </Button>
          <Button variant="outlined" color="inherit" disabled={busy} onClick={() => run([])}>
            Of none of them
          </Button>
          <Button color="inherit" onClick={onClose}>
            Later
          </Button>
          <TextField
            size="small"
            label="Another frame: number, name or time"
            sx={{ width: 280, ml: 'auto' }}
            onChange={(event) => find(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') say();
            }}
          />
          <Box sx={{ ...CAPTION, color: INK.soft, flexBasis: '100%' }}>
            {isOpen
              ? `← → through ${many(all.length, 'keeper')} · Enter of the one shown · Space of several · 0 of none. `
              : `← → look · 1–9 it is of that one · Enter of the one shown · Space of several · A of all ${all.length > 1 ? many(all.length, 'frame') : ''} · 0 of none. `}
            Nothing is written to the file.
          </Box>
          <Problem error={error} again={again} />
        </Box>
      </Box>
    </WideDialog>
  );
}

/** The keys are its from the beginning; drawn once more, it leaves the focus where that is. */
const focusOnce = (box: HTMLElement | null) => box?.focus();

const intoView = (button: HTMLElement | null) =>
  button?.scrollIntoView?.({ block: 'nearest', inline: 'center' });

function Large({ picture, words }: { picture: string | null; words: string }) {
  return (
    <Box
      component="figure"
      sx={{ m: 0, display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', minHeight: 0 }}
    >
      <Box sx={{ minHeight: 0, display: 'grid', placeItems: 'center', bgcolor: GROUND.deep }}>
        {picture && (
          <img
            src={previewUrl(picture, 'screen')}
            alt=""
            // Both as large as there is room: a small one would look like another picture.
            style={{ width: '100%', height: '100%', minHeight: 0, objectFit: 'contain' }}
          />
        )}
      </Box>
      <Box component="figcaption" sx={{ ...CAPTION, color: INK.soft, pt: 0.5, overflowWrap: 'anywhere' }}>
        {words}
      </Box>
    </Box>
  );
}
