import { Button, LinearProgress } from '@mui/material';
import { useCallback, useEffect, useRef, useState, type DragEvent } from 'react';
import { post, postBytes, type Api } from '../../data/http';
import { count, many } from '../../data/format';
import { useAction } from '../../parts/useAction';
import styles from './Find.module.css';

const hasFiles = (event: DragEvent): boolean => event.dataTransfer.types.includes('Files');

/** How far a picture was held against one frame after the other. */
export interface HeldSoFar {
  looked: number;
  of: number;
}

const FOUND = 'The frame that this picture was made from stands first';
const NOT_FOUND = 'No frame is surely this picture: what looks like it is shown, if anything does';

/**
 * A picture from elsewhere, dropped here or pasted: the frame that it was made from is looked for, or what looks like it. What is not found
 * at once may be a part of a frame: it is held against all of them, until it is found, somebody stops it, or asks something else. `like`:
 * what is asked for now.
 */
export function useDroppedPicture(
  like: string | undefined,
  onLike: (like: string, original: boolean) => void,
  say: (words: string) => void,
) {
  const [held, setHeld] = useState<HeldSoFar | null>(null);
  /** what is asked for while it is held against frames; another one ends that */
  const sought = useRef<string | null>(null);
  const stop = useCallback(() => {
    sought.current = null;
    setHeld(null);
  }, []);
  useEffect(() => {
    if (sought.current !== null && like !== sought.current) stop();
  }, [like, stop]);
  useEffect(() => stop, [stop]);
  const hold = async (token: string, mine: string): Promise<void> => {
    let [looked, unseen, before]: [number, number, number | null] = [0, 0, null];
    do {
      const step: Api['HeldAgainstDto'] = await post(`/find/picture/${token}/further`, { before });
      if (sought.current !== mine) return;
      looked += step.looked;
      unseen += step.unseen;
      setHeld({ looked, of: Math.max(looked, step.of) });
      before = step.before;
      if (step.like === null) continue;
      stop();
      onLike(step.like, true);
      say(FOUND);
      return;
    } while (before !== null);
    stop();
    say(unseen === 0 ? NOT_FOUND : `${NOT_FOUND}; ${many(unseen, 'frame')} nobody has looked at yet`);
  };
  const { run, busy, error } = useAction(async (file: File) => {
    stop();
    const found = await postBytes(`/find/picture?name=${encodeURIComponent(file.name)}`, file);
    onLike(found.like, found.original);
    say(found.original ? FOUND : '');
    if (found.token === null) return;
    sought.current = found.like;
    setHeld({ looked: 0, of: 0 });
    void hold(found.token, found.like).catch((failure: Error) => {
      if (sought.current !== found.like) return;
      stop();
      say(failure.message);
    });
  });
  const take = useCallback((file: File | undefined) => file && run(file), [run]);
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const file = [...(event.clipboardData?.files ?? [])].find(({ type }) => type.startsWith('image/'));
      if (!file) return;
      event.preventDefault();
      take(file);
    };
    window.addEventListener('paste', paste);
    return () => window.removeEventListener('paste', paste);
  }, [take]);
  return {
    ...{ take, busy, error, held, stop },
    hands: {
      onDragOver: (event: DragEvent) => {
        if (hasFiles(event)) event.preventDefault();
      },
      onDrop: (event: DragEvent) => {
        if (!hasFiles(event)) return;
        event.preventDefault();
        take(event.dataTransfer.files[0]);
      },
    },
  };
}

/** That a picture is still held against frames, and how to leave it at that. */
export function HeldAgainst({ held: { looked, of }, onStop }: { held: HeldSoFar; onStop: () => void }) {
  return (
    <div className={styles.held}>
      <div>
        Not found as a whole. It may be a part of a frame: held against {count(looked)}
        {of > 0 && ` of ${count(of)}`} so far, those that came last first.
      </div>
      <Button size="small" color="inherit" onClick={onStop}>
        Stop
      </Button>
      <LinearProgress
        variant={of === 0 ? 'indeterminate' : 'determinate'}
        color="inherit"
        value={of === 0 ? 0 : (looked / of) * 100}
        aria-label="Frames that the picture was held against"
      />
    </div>
  );
}

/** For hands that neither drop nor paste: the file is chosen. */
export function PictureButton({ onPicture }: { onPicture: (file: File | undefined) => void }) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className={styles.picture}
        title="A copy, a cut or a screenshot finds the frame it was made from. It can be dropped or pasted here as well."
        onClick={() => field.current?.click()}
      >
        By a picture …
      </button>
      <input
        ref={field}
        type="file"
        accept="image/*"
        aria-label="A picture whose frame is looked for"
        hidden
        onChange={(event) => {
          onPicture(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </>
  );
}
