import { useEffect, useRef, useState } from 'react';
import { many } from '../../../data/format';
import { post, type Api } from '../../../data/http';
import { useAction } from '../../../parts/useAction';
import type { PileChoice } from '../cullFilter';
import { Line } from '../Line';
import { pileFor } from './pileFor';
import styles from './PileLine.module.css';

interface Props {
  piles: readonly Api['PileDto'][];
  /** id of the pile that frames go into by now */
  current: string | null;
  /** how many would be put in */
  frames: number;
  onPut: (pile: PileChoice) => void;
  onEnd: () => void;
}

/** Puts frames into a pile that is chosen by its digit, by its name or by a click; a name that is new makes one. */
export function PileLine({ piles, current, frames, onPut, onEnd }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  useEffect(() => field.current?.focus(), []);
  const put = (pile: PileChoice) => {
    onPut(pile);
    onEnd();
  };
  const { run: create, error, busy } = useAction(async (name: string) => put(await post('/piles', { name })));
  const found = pileFor(text, piles);
  const name = text.trim();
  const note = error
    ? (error as Error).message
    : name === ''
      ? piles.length > 0
        ? 'its digit, or its name; a new name makes a new pile'
        : 'a name makes the first pile'
      : found
        ? `Enter puts ${many(frames, 'frame')} into “${found.name}”`
        : `Enter makes the pile “${name}” and puts ${many(frames, 'frame')} in`;
  return (
    <Line
      words="Into the pile"
      input={
        <>
          <input
            ref={field}
            aria-label="Into the pile: its digit or its name"
            value={text}
            spellCheck={false}
            autoComplete="off"
            maxLength={60}
            onChange={(event) => {
              const typed = event.target.value;
              const byDigit = piles.find(({ number }) => number !== null && typed === String(number));
              if (text === '' && byDigit) put(byDigit);
              else setText(typed);
            }}
            onBlur={() => !busy && onEnd()}
            onKeyDown={(event) => {
              if (event.key === 'Escape') onEnd();
              if (event.key !== 'Enter' || name === '') return;
              if (found) put(found);
              else create(name);
            }}
          />
          {/* A click takes the field's focus only when it is over: the line would be gone under it. */}
          <span className={styles.piles} onPointerDown={(event) => event.preventDefault()}>
            {piles.map((pile) => (
              <button
                key={pile.id}
                type="button"
                tabIndex={-1}
                className={styles.pile}
                data-current={pile.id === current || undefined}
                onClick={() => put(pile)}
              >
                {pile.number !== null && <kbd>{pile.number}</kbd>} {pile.name}
              </button>
            ))}
          </span>
        </>
      }
      note={note}
    />
  );
}
