import { shownName } from '@arkiv/core';
import { count, many, mediumDay } from '../../data/format';
import { clockOf, numberOf, type LoadedFrame } from '../../data/frames';
import { outOfAlbum } from './arranging';
import type { FindSeen } from './findSeen';
import styles from './Find.module.css';

interface CaptionProps {
  frame: LoadedFrame | undefined;
  place: number;
  all: number;
  selected: number;
  notice: string;
  keyOf: (action: string) => string;
  seen: FindSeen;
}

/** What one stands at, and where one can go from there. */
export function FoundCaption({ frame, place, all, selected, notice, keyOf, seen }: CaptionProps) {
  const deeds = [
    ['Open', 'single', () => seen.open('single')],
    ['In its shoot', 'in-shoot', () => frame && seen.inShoot(frame)],
    ['Alike', 'similar', () => frame && seen.similar(frame)],
    ...(seen.within && !seen.within.byRule
      ? ([['Out of the album', 'drop', () => void outOfAlbum(seen)]] as const)
      : []),
    ['Within an hour', 'near-time', () => frame && seen.nearTime(frame)],
  ] as const;
  return (
    <div className={styles.caption}>
      <div className={styles.facts}>
        {frame ? (
          <>
            <b>{numberOf(frame.name)}</b> · {shownName(frame.shoot ?? '')} ·{' '}
            {frame.time ? `${mediumDay(frame.time.slice(0, 10))}, ${clockOf(frame).slice(0, 8)}` : 'no time'}
            {frame.caption ? ` · ${frame.caption}` : ''}
            {frame.keywords ? ` · ${frame.keywords.split('\n').join(', ')}` : ''} · {count(place + 1)} of{' '}
            {count(all)}
          </>
        ) : (
          ' '
        )}
      </div>
      <span role="status" className={styles.notice}>
        {notice || (selected > 0 ? `${many(selected, 'frame')} selected: marks go to all of them` : '')}
      </span>
      {frame &&
        deeds.map(([words, action, deed]) => (
          <button key={action} type="button" className={styles.deed} onClick={deed}>
            {words}
            <kbd>{keyOf(action)}</kbd>
          </button>
        ))}
    </div>
  );
}
