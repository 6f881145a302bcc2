import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ulid } from 'ulid';
import useSWR from 'swr';
import { post, type Api } from '../data/http';
import { passAddress } from '../data/passParts';
import { Loading } from './Loading';
import { PassChoices } from './PassChoices';
import { Problem } from './Problem';
import { useAction } from './useAction';

interface Props {
  /** what it is over, in words: `the 3 shoots found` */
  words: string;
  /** what it is over, or what finds that out when it is asked for */
  over: Over | (() => Promise<Over>);
}

type Over = Api['PassOverDto'];

/** Begins a pass over frames of several shoots: Cull opens at the first one. */
export function PassOver({ words, over }: Props) {
  const [open, setOpen] = useState<Over | null>(null);
  const { run, busy } = useAction(async () => setOpen(typeof over === 'function' ? await over() : over));
  return (
    <>
      <Button variant="outlined" color="inherit" disabled={busy} onClick={() => run()}>
        Begin a pass …
      </Button>
      {open && <PassOverDialog words={words} over={open} onClose={() => setOpen(null)} />}
    </>
  );
}

type What = Api['PassWhatDto'];

function PassOverDialog({ words, over, onClose }: { words: string; over: Over; onClose: () => void }) {
  const navigate = useNavigate();
  const { data, error } = useSWR(['/passes/choices', over], () => post('/passes/choices', { over }), {
    revalidateOnFocus: false,
  });
  const {
    run,
    busy,
    error: failed,
  } = useAction(async (name: string, what: What) => {
    const { id, at, parts } = await post('/passes', { id: ulid(), name, over, what });
    await navigate(passAddress(parts[0]!.shootId, id, at!));
  });
  const choices = data ? choicesOf(data) : [];
  return (
    <Dialog
      open
      onClose={onClose}
      maxWidth="sm"
      fullWidth
      aria-labelledby="pass-over-title"
      transitionDuration={0}
    >
      <DialogTitle id="pass-over-title" sx={{ pb: 0.5 }}>
        A pass over {words}
      </DialogTitle>
      <DialogContent>
        <Typography sx={{ color: 'text.secondary', mb: 1.5 }}>
          It goes through the frames shoot by shoot, whatever they become, and counts what was seen. It can be
          stopped at any time and goes on where it was.
        </Typography>
        <Problem error={error ?? failed} />
        {!data && !error && <Loading what="what there is to look at" />}
        {data && choices.length === 0 && <Typography>There is no frame in it.</Typography>}
        {choices.length > 0 && (
          <PassChoices
            busy={busy}
            choices={choices.map(({ name, frames, what }) => ({
              ...{ name, frames },
              begin: (called: string) => run(called, what),
            }))}
          />
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Leave it
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function choicesOf({ all, left, keepers, stars }: Api['PassChoicesDto']) {
  return [
    { name: 'undecided', frames: left, what: { standing: 'left' } as What },
    { name: 'keepers', frames: keepers, what: { standing: 'keeper' } as What },
    // What no frame has in between is the same choice once more.
    ...[5, 4, 3, 2, 1]
      .filter((n) => stars[n - 1] !== stars[n])
      .map((n) => ({
        name: n === 5 ? '5★' : `${n}★ and more`,
        frames: stars[n - 1]!,
        what: { stars: n } as What,
      })),
    { name: 'all frames', frames: all, what: {} as What },
  ].filter(({ frames }) => frames > 0);
}
