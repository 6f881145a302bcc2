import { Box, Button, Dialog, DialogContent, DialogTitle, Typography } from '@mui/material';
import { pilesOf, standingOf, type KeeperRules } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { count, many, momentOf } from '../../../data/format';
import type { LoadedFrame } from '../../../data/frames';
import { post, type Api } from '../../../data/http';
import { usePasses } from '../../../data/live';
import type { ShootState } from '../../../data/shootStore';
import { Problem } from '../../../parts/Problem';
import { useAction } from '../../../parts/useAction';
import { useClosingKey } from '../../../parts/useClosingKey';
import { GROUND, INK } from '../../../theme/theme';
import type { PileChoice } from '../cullFilter';
import { PassChoices } from '../../../parts/PassChoices';
import { Comparison } from './Comparison';
import { PassResults } from './PassResults';
import type { Shown } from '../shown';

interface Props {
  shootId: string;
  shoot: ShootState;
  shown: Shown;
  /** what hides frames now, in words */
  chips: readonly string[];
  rules: KeeperRules;
  pile: PileChoice | null;
  onBegin: (name: string, frames: readonly string[]) => Promise<void>;
  onGoOn: (id: string) => Promise<void>;
  onClose: () => void;
}

/** What a pass can be about, and the passes that were. */
export function PassesDialog(props: Props) {
  const { shootId, shoot, shown, chips, rules, pile, onBegin, onGoOn, onClose } = props;
  const { data: passes, error } = usePasses(shootId);
  const { run, busy, error: failed } = useAction((work: () => Promise<unknown>) => work());
  const onKeyDown = useClosingKey('passes', onClose);
  const [open, setOpen] = useState<string | null>(null);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const compared = chosen.filter((id) => passes?.some((pass) => pass.id === id));
  const choices = useMemo(() => {
    const of = (name: string, is: (frame: LoadedFrame) => boolean) => ({
      name,
      frames: shoot.frames.filter(is).map(({ id }) => id),
    });
    return [
      of('undecided', (frame) => standingOf(rules, frame) === 'left'),
      of('keepers', (frame) => standingOf(rules, frame) === 'keeper'),
      // What no frame has in between would be the same choice once more.
      ...[5, 4, 3, 2, 1]
        .filter((n) => shoot.frames.some(({ stars }) => stars === n))
        .map((n) => of(n === 5 ? '5★' : `${n}★ and more`, ({ stars }) => stars >= n)),
      ...(pile ? [of(`pile “${pile.name}”`, (frame) => pilesOf(frame).includes(pile.id))] : []),
      ...(chips.length > 0 ? [{ name: chips.join(', '), frames: shown.slice() }] : []),
      of('all frames', () => true),
    ].filter(({ frames }) => frames.length > 0);
  }, [shoot, rules, pile, chips, shown]);
  return (
    <Dialog
      open
      onClose={onClose}
      maxWidth="md"
      fullWidth
      aria-labelledby="passes-title"
      transitionDuration={0}
      onKeyDown={onKeyDown}
    >
      <DialogTitle id="passes-title" sx={{ pb: 0.5 }}>
        Passes
      </DialogTitle>
      <DialogContent>
        <Typography sx={{ color: 'text.secondary', mb: 1.5 }}>
          A pass goes through the frames that it begins with, whatever they become, and counts what was seen.
          It can be stopped at any time and goes on where it was.
        </Typography>
        <PassChoices
          busy={busy}
          choices={choices.map(({ name, frames }) => ({
            ...{ name, frames: frames.length },
            begin: (called: string) => run(() => onBegin(called, frames)),
          }))}
        />
        <Problem error={failed ?? error} />
        {compared.length === 1 && (
          <Typography role="status" sx={{ mb: 1.5 }}>
            Choose the pass that “{passes!.find(({ id }) => id === compared[0])!.name}” is compared with.
          </Typography>
        )}
        {compared.length === 2 && (
          <Comparison
            key={compared.join(' ')}
            passes={compared.map((id) => passes!.find((pass) => pass.id === id)!)}
            here={shoot.order}
            onLook={(name, frames) => run(() => onBegin(name, frames))}
          />
        )}
        {(passes ?? []).map((pass) => (
          <Row
            key={pass.id}
            pass={pass}
            open={open === pass.id}
            onOpen={() => setOpen(open === pass.id ? null : pass.id)}
            onGoOn={() => run(() => onGoOn(pass.id))}
            compared={compared.includes(pass.id)}
            onCompare={() => setChosen(toggled(compared, pass.id))}
            results={<PassResults id={pass.id} shoot={shoot} rules={rules} />}
          />
        ))}
        {passes?.length === 0 && (
          <Typography sx={{ color: 'text.secondary' }}>None was begun in this shoot yet.</Typography>
        )}
      </DialogContent>
    </Dialog>
  );
}

/** Two at once: the third takes the place of the first. */
const toggled = (ids: readonly string[], id: string): string[] =>
  ids.includes(id) ? ids.filter((one) => one !== id) : [...ids.slice(-1), id];

function Row({
  pass,
  open,
  compared,
  onCompare,
  onOpen,
  onGoOn,
  results,
}: {
  pass: Api['PassDto'];
  open: boolean;
  /** it is one of the two that are compared */
  compared: boolean;
  onCompare: () => void;
  onOpen: () => void;
  onGoOn: () => void;
  results: React.ReactNode;
}) {
  const [asked, setAsked] = useState(false);
  const [said, setSaid] = useState('');
  const {
    run: undo,
    busy,
    error,
  } = useAction(async () => {
    const { marks, skipped } = await post(`/passes/${pass.id}/undo`);
    const stayed = skipped > 0 ? ` ${many(skipped, 'mark')} changed since stayed.` : '';
    setSaid(`${many(marks, 'mark')} taken back.${stayed}`);
    setAsked(false);
  });
  const minutes = pass.activeMillis / 60_000;
  const pace =
    minutes > 0 && pass.seenCount > 0 ? ` · ${count(Math.round(pass.seenCount / minutes))} a minute` : '';
  return (
    <Box sx={{ borderTop: `1px solid ${GROUND.line}`, py: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', flexWrap: 'wrap', gap: 1.5 }}>
        <Box sx={{ fontWeight: 640, minWidth: 120 }}>{pass.name}</Box>
        <Box sx={{ flex: 1, color: INK.soft, minWidth: 260 }}>
          {momentOf(pass.begunAt)} · {count(pass.seenCount)} of {count(pass.total)} seen · {count(pass.kept)}{' '}
          kept · {count(pass.rejected)} rejected{pace}
          {pass.shoots > 1 && ` · over ${many(pass.shoots, 'shoot')}`}
          {pass.undoneAt !== null && ' · taken back'}
        </Box>
        <Button size="small" color="inherit" aria-pressed={compared} onClick={onCompare}>
          {compared ? 'Compared' : 'Compare'}
        </Button>
        <Button size="small" color="inherit" aria-expanded={open} onClick={onOpen}>
          {open ? 'Close' : 'What came of it'}
        </Button>
        <Button size="small" color="inherit" onClick={() => setAsked(!asked)}>
          Take back …
        </Button>
        <Button size="small" variant="outlined" color="inherit" onClick={onGoOn}>
          Go on
        </Button>
      </Box>
      {asked && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}>
          <Box sx={{ flex: 1 }}>
            Every mark made in this pass goes back to what it was before. What was changed since stays. Ctrl Z
            in this shoot takes that back.
          </Box>
          <Button variant="outlined" color="inherit" disabled={busy} onClick={() => undo()}>
            Take the pass back
          </Button>
        </Box>
      )}
      {said && <Box role="status">{said}</Box>}
      <Problem error={error} />
      {open && results}
    </Box>
  );
}
