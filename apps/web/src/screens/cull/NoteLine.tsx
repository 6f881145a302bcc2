import { NOTE_MOST, noteOf, noteText } from '@arkiv/core';
import { useEffect, useRef, useState } from 'react';
import { many } from '../../data/format';
import { Line } from './Line';

interface Props {
  /** as it is kept; null: there is none yet */
  note: string | null;
  /** a spot of the picture that was pointed to since the line stands */
  spot: { x: number; y: number } | null;
  /** how many frames it would be written on */
  frames: number;
  /** a picture is there that can be pointed into */
  canPoint: boolean;
  onWrite: (note: string | null) => void;
  onEnd: () => void;
}

/** Writes a note to whoever edits the frame, on the whole of it or at a spot that is clicked meanwhile. */
export function NoteLine({ note, spot, frames, canPoint, onWrite, onEnd }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const before = note === null ? null : noteOf(note);
  const [words, setWords] = useState(before?.words ?? '');
  const at = spot ?? before?.spot ?? null;
  // The hand that pointed goes on typing.
  useEffect(() => field.current?.focus(), [spot]);
  const text = noteText({ words, spot: words.trim() === '' ? null : at });
  const write = () => {
    onWrite(text);
    onEnd();
  };
  return (
    <Line
      words="Note"
      input={
        <input
          ref={field}
          aria-label="Note to whoever edits it"
          value={words}
          maxLength={NOTE_MOST - SPOT_LENGTH}
          style={{ flex: '1 1 420px', maxWidth: 620 }}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') onEnd();
            if (event.key === 'Enter') write();
          }}
        />
      }
      actions={[{ words: 'Write', keys: 'Enter', run: write }]}
      onEnd={onEnd}
      note={[
        text === null
          ? note === null
            ? ''
            : `Enter takes it off ${many(frames, 'frame')}`
          : `Enter writes it on ${many(frames, 'frame')}`,
        canPoint
          ? at
            ? 'points to a spot; a click points elsewhere'
            : 'a click in the picture points to a spot'
          : '',
      ]
        .filter((part) => part !== '')
        .join(' · ')}
    />
  );
}

/** Characters that the spot takes before the words: `[100.0 % 100.0 %] `. */
const SPOT_LENGTH = 18;
