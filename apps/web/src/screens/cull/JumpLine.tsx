import { useEffect, useRef, useState } from 'react';
import { clockOf, numberOf, type LoadedFrame } from '../../data/frames';
import { Line } from './Line';
import { jumpTo } from './jump';

interface Props {
  count: number;
  frame: (i: number) => LoadedFrame;
  at: number;
  onGo: (i: number) => void;
  onEnd: () => void;
}

/** Goes to a frame by its number, its time or the start of its name. */
export function JumpLine({ count, frame, at, onGo, onEnd }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  useEffect(() => field.current?.focus(), []);
  const found = jumpTo(text, count, frame, at);
  const there = found < 0 ? null : frame(found);
  const words =
    text.trim() === ''
      ? 'a number, a time as 9:14, or the start of a name'
      : there
        ? `${numberOf(there.name)} · ${clockOf(there).slice(0, 8)} · Enter goes there`
        : 'nothing shown is called so';
  return (
    <Line
      words="Go to"
      input={
        <input
          ref={field}
          aria-label="Go to a number, a time or a name"
          value={text}
          spellCheck={false}
          autoComplete="off"
          onChange={(event) => setText(event.target.value)}
          onBlur={onEnd}
          onKeyDown={(event) => {
            if (event.key === 'Escape') onEnd();
            if (event.key !== 'Enter') return;
            if (found >= 0) onGo(found);
            onEnd();
          }}
        />
      }
      note={words}
    />
  );
}
