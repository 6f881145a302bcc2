import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { belowOriginals, numberKept, shownName } from '@arkiv/core';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import type { LoadedFrame } from '../../data/frames';
import { bytes, many, mediumDay } from '../../data/format';
import { get, type Api } from '../../data/http';
import { shootStore } from '../../data/shootStore';
import { useShoot, useShootsNear } from '../../data/live';
import { PatternField } from '../../parts/PatternField';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { WayList } from '../../parts/WayList';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { alongWords } from './alongWords';
import { moveNow, useMovePlan, type MoveRequest } from './useMove';
import { Tick } from '../../parts/Tick';

interface Props {
  /** those that are meant, loaded where they are not yet */
  frames: () => Promise<readonly LoadedFrame[]>;
  /** their shoot, where they do not name it */
  shootId?: string;
  onClose: () => void;
  /** told what was done */
  onDone: (words: string) => void;
}

/** Other names for some frames of a shoot, or another folder: every file is shown before it moves, and it can be taken back. */
export function ArrangeDialog({ frames: ask, shootId, onClose, onDone }: Props) {
  const [frames, setFrames] = useState<readonly LoadedFrame[] | null>(null);
  const { run, error } = useAction(async () => setFrames((await ask()).filter(({ binned }) => binned !== 1)));
  useEffect(() => run(), [run]);
  const shoots = [...new Set(frames?.map((frame) => frame.shootId ?? shootId))];
  const only = shoots.length === 1 ? shoots[0] : undefined;
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="md"
      slotProps={{ paper: { sx: { borderRadius: 0 } } }}
      aria-labelledby="arrange-title"
    >
      <DialogTitle id="arrange-title">
        {frames ? `Names and folder of ${many(frames.length, 'frame')}` : 'Names and folder'}
      </DialogTitle>
      {frames && only !== undefined ? (
        <Choices key={only} frames={frames} shootId={only} onClose={onClose} onDone={onDone} />
      ) : (
        <>
          <DialogContent>
            <Problem error={error} />
            {frames &&
              (frames.length === 0
                ? 'No frame is chosen.'
                : `These are of ${shoots.length} shoots. Frames are named and arranged within one: choose those of one shoot.`)}
          </DialogContent>
          <DialogActions>
            <Button color="inherit" onClick={onClose}>
              Close
            </Button>
          </DialogActions>
        </>
      )}
    </Dialog>
  );
}

type Naming = 'stay' | 'pattern' | 'hand';
type Way = 'stay' | 'below' | 'other';

function Choices(props: { frames: readonly LoadedFrame[]; shootId: string } & Omit<Props, 'frames'>) {
  const { frames, shootId, onClose, onDone } = props;
  const { data: shoot } = useShoot(shootId);
  const one = frames.length === 1 ? frames[0]! : null;
  const number = one && numberKept(one.name);
  const [naming, setNaming] = useState<Naming>(one ? 'hand' : 'pattern');
  const [pattern, setPattern] = useState('{shoot}_{number:4}');
  const [start, setStart] = useState('');
  const [due, setDue] = useState('');
  const [text, setText] = useState(one?.name ?? '');
  const [keeps, setKeeps] = useState(false);
  const [way, setWay] = useState<Way>('stay');
  const [below, setBelow] = useState('');
  const [into, setInto] = useState('');
  const [copies, setCopies] = useState(false);
  const target = way === 'other' ? into : shootId;
  const { data: home } = useShoot(target === '' ? undefined : target);
  const folders = useFolders(target, home);
  const goes = way !== 'stay';
  const name = `${text.trim()}${keeps && number ? `_${number}` : ''}`;
  const named =
    naming === 'pattern'
      ? { pattern, ...(start === '' ? {} : { seqStart: Number(start) }), ...(due === '' ? {} : { due }) }
      : naming === 'hand' && name !== '' && name !== one?.name
        ? { name }
        : {};
  const wish = {
    ...named,
    ...(goes ? { below, ...(copies ? { copies } : {}) } : {}),
    ...(way === 'other' ? { into } : {}),
  };
  const asked: MoveRequest | null =
    Object.keys(wish).length === 0 || (naming === 'pattern' && pattern === '') || target === ''
      ? null
      : { kind: 'arrange', shootId, frameIds: frames.map(({ id }) => id), rename: false, ...wish };
  const { plan, error } = useMovePlan(asked);
  const {
    run,
    busy,
    error: trouble,
    again,
  } = useAction(async () => {
    await moveNow(asked!);
    onDone(
      copies && goes
        ? `${many(plan!.frames, 'frame')} copied; Jobs can undo it`
        : `${many(plan!.frames, 'frame')} arranged; Files and Jobs can undo it`,
    );
    onClose();
  });
  return (
    <>
      <DialogContent sx={{ display: 'grid', gap: 2 }}>
        <Box role="radiogroup" aria-label="Names" sx={{ display: 'grid', gap: 0.75 }}>
          <Radio name="names" checked={naming === 'stay'} onChoose={() => setNaming('stay')}>
            Names stay
          </Radio>
          {one && (
            <Radio name="names" checked={naming === 'hand'} onChoose={() => setNaming('hand')}>
              This name
            </Radio>
          )}
          {one && naming === 'hand' && (
            <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', pl: 3 }}>
              <TextField
                label="Name"
                value={text}
                autoFocus
                fullWidth
                onChange={(event) => setText(event.target.value)}
                onFocus={(event) => event.target.select()}
                slotProps={{ inputLabel: { shrink: true }, htmlInput: { spellCheck: false } }}
              />
              {number && (
                <Tick checked={keeps} onChange={setKeeps}>
                  with its number {number} behind it
                </Tick>
              )}
            </Box>
          )}
          <Radio name="names" checked={naming === 'pattern'} onChoose={() => setNaming('pattern')}>
            By a pattern
          </Radio>
          {naming === 'pattern' && (
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 150px 170px', gap: 1.5, pl: 3, pt: 0.5 }}>
              <PatternField
                label="Name pattern"
                value={pattern}
                fields={[
                  'shoot',
                  'capture',
                  'today',
                  'due',
                  'number',
                  'original',
                  'keyword',
                  'client',
                  'place',
                ]}
                onChange={setPattern}
              />
              <TextField
                label="Numbers begin at"
                value={start}
                placeholder="the next free"
                onChange={(event) => setStart(event.target.value.replace(/\D/g, '').slice(0, 7))}
                slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: 'numeric' } }}
              />
              <TextField
                label="Due on"
                type="date"
                value={due}
                onChange={(event) => setDue(event.target.value)}
                slotProps={{ inputLabel: { shrink: true } }}
              />
            </Box>
          )}
        </Box>
        <Box role="radiogroup" aria-label="Folder" sx={{ display: 'grid', gap: 0.75 }}>
          <Radio name="folder" checked={way === 'stay'} onChoose={() => setWay('stay')}>
            They stay where they lie
          </Radio>
          <Radio name="folder" checked={way === 'below'} onChoose={() => setWay('below')}>
            Into a folder below the originals
          </Radio>
          <Radio name="folder" checked={way === 'other'} onChoose={() => setWay('other')}>
            Into another shoot
          </Radio>
          {way === 'other' && shoot && <ShootChoice near={shoot} value={into} onChoose={setInto} />}
          {goes && (
            <Box sx={{ pl: 3, pt: 0.75, display: 'grid', gap: 1 }}>
              <TextField
                label="Folder; empty: the originals themselves"
                value={below}
                fullWidth
                placeholder="proofs/second round"
                onChange={(event) => setBelow(event.target.value)}
                helperText="A folder in a folder behind a slash; {keyword}, {stars}, {body} or {capture:yyyy-MM-dd} make one for each value."
                slotProps={{
                  inputLabel: { shrink: true },
                  htmlInput: { spellCheck: false, list: 'arrange-folders' },
                }}
              />
              <datalist id="arrange-folders">
                {folders.map((folder) => (
                  <option key={folder} value={folder} />
                ))}
              </datalist>
              <Tick checked={copies} onChange={setCopies}>
                Copy: the frames stay where they are, and the copies are frames of their own
              </Tick>
            </Box>
          )}
        </Box>
        <Box role="status" sx={{ color: INK.soft, minHeight: 22 }}>
          {plan && saidOf(plan, copies && goes)}
        </Box>
        {plan?.problems[0] && <Problem error={new Error(plan.problems[0])} />}
        <Problem error={error} />
        <Problem error={trouble} again={again} />
        {plan && plan.files > 0 && (
          <Box sx={{ height: 220, display: 'flex', bgcolor: GROUND.deep }}>
            <WayList ways={plan.ways} problems={plan.problems} />
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Box sx={{ ...CAPTION, flex: 1, pl: 2, color: INK.faint }}>{shoot && shownName(shoot.title)}</Box>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button
          variant="contained"
          disabled={busy || !plan || plan.files === 0 || plan.problems.length > 0}
          onClick={() => run()}
        >
          {deedWords(copies && goes ? 'Copy' : goes ? 'Move' : 'Rename', frames.length, busy)}
        </Button>
      </DialogActions>
    </>
  );
}

function deedWords(deed: 'Copy' | 'Move' | 'Rename', frames: number, busy: boolean): string {
  if (busy) return deed === 'Copy' ? 'Copying …' : 'Moving …';
  return `${deed} ${many(frames, 'frame')}`;
}

function saidOf(plan: Api['MovePlanDto'], copies: boolean): string {
  if (plan.files === 0) return 'No file would change its name or place.';
  const what = `${many(plan.files, 'file')} of ${many(plan.frames, 'frame')} with their sidecars${alongWords(plan)}`;
  if (copies) {
    const on = plan.volumes.filter((name) => !plan.away.includes(name)).join(' and ');
    const missing =
      plan.away.length > 0
        ? ` ${plan.away.join(' and ')} is not there: the copies will be missing on it.`
        : '';
    return `${what}, ${bytes(plan.bytes)} on ${on || 'no drive'} each, read back and compared. Undoing puts the copies into the bin.${missing}`;
  }
  const away = plan.away.length > 0 ? ` ${plan.away.join(' and ')} must be plugged in first.` : '';
  return `${what}, on ${plan.volumes.join(' and ')}. Nothing is overwritten; it can be undone.${away}`;
}

/** The shoots that frames may go into, those of about the same day first. */
function ShootChoice(props: { near: Api['ShootDto']; value: string; onChoose: (id: string) => void }) {
  const { near, value, onChoose } = props;
  const { data: shoots } = useShootsNear(near.date);
  const far = ({ date }: { date: string }) => Math.abs(Date.parse(date) - Date.parse(near.date));
  // Nothing is put into an adopted folder.
  const others = (shoots ?? [])
    .filter(({ id, keptIn }) => id !== near.id && !keptIn)
    .sort((a, b) => far(a) - far(b));
  return (
    <Box sx={{ pl: 3, pt: 0.75 }}>
      <TextField
        select
        label="Shoot"
        value={value}
        fullWidth
        onChange={(event) => onChoose(event.target.value)}
        slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      >
        <option value="">choose a shoot …</option>
        {others.map((shoot) => (
          <option key={shoot.id} value={shoot.id}>
            {shownName(shoot.title)} · {mediumDay(shoot.date)} · {many(shoot.frames, 'frame')}
          </option>
        ))}
      </TextField>
    </Box>
  );
}

/** Folders below the originals in which frames of the shoot lie already. */
function useFolders(shootId: string, shoot: Api['ShootDto'] | undefined): readonly string[] {
  const [lies, setLies] = useState<readonly string[]>([]);
  useEffect(() => {
    let wanted = true;
    const known = shootStore(shootId).snapshot();
    const take = (all: readonly (string | undefined)[]) =>
      wanted && setLies([...new Set(all.flatMap((one) => one ?? []))]);
    if (known.loaded) take(known.frames.map((frame) => frame.lies));
    else
      get(`/shoots/${shootId}/frames`).then(
        ({ columns }) => take((columns.lies ?? []) as string[]),
        () => undefined,
      );
    return () => {
      wanted = false;
    };
  }, [shootId]);
  return useMemo(
    () =>
      [
        ...new Set(
          lies.flatMap((place) =>
            (shoot?.folders ?? []).flatMap((folder) => belowOriginals(folder, place, shoot!.originals) ?? []),
          ),
        ),
      ]
        .filter((below) => below !== '')
        .sort(),
    [lies, shoot],
  );
}

function Radio(props: { name: string; checked: boolean; onChoose: () => void; children: ReactNode }) {
  const { name, checked, onChoose, children } = props;
  return (
    <label style={{ display: 'flex', gap: 8, alignItems: 'center' }}>
      <input
        type="radio"
        name={name}
        style={{ accentColor: INK.full }}
        checked={checked}
        onChange={onChoose}
      />
      {children}
    </label>
  );
}
