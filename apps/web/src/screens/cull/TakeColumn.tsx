import { memo, useEffect, useRef, type ReactNode } from 'react';
import { numberOf, previewUrl, secondsOf, type LoadedFrame } from '../../data/frames';
import { many } from '../../data/format';
import { LabelTab, Stars } from '../../parts/Marks';
import { Unseen } from '../../parts/Unseen';
import styles from './TakeColumn.module.css';

interface Props {
  /** the take's frames in order of time */
  frames: readonly LoadedFrame[];
  current: string;
  /** hidden by the filter: shown faint, and not gone to */
  hides: (id: string) => boolean;
  onGo: (id: string) => void;
  /** stands below the take */
  children?: ReactNode;
}

/** Pixels: five frames of a burst stand one below the other at 800 pixels of height. */
const WIDTH = 156;

/** The current take as a column beside the picture: all of its frames, with their marks, at one glance. */
export const TakeColumn = memo(function TakeColumn({ frames, current, hides, onGo, children }: Props) {
  const list = useRef<HTMLOListElement>(null);
  const room = useRef(0);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => (room.current = entry?.contentRect.height ?? 0));
    if (list.current) observer.observe(list.current);
    return () => observer.disconnect();
  }, []);
  const at = frames.findIndex((f) => f.id === current);
  useEffect(() => {
    // A take that has room for all of its frames scrolls nowhere: asking the browser costs a layout with each key.
    if (at >= 0 && frames.length * FRAME > room.current)
      list.current?.children[at]?.scrollIntoView({ block: 'nearest' });
  }, [at, frames]);
  const [first, last] = [frames[0], frames.at(-1)];
  const seconds =
    first && last && first !== last ? ((last.instant ?? 0) - (first.instant ?? 0)) / 1000 : null;
  return (
    <aside aria-label="Take" className={styles.column} style={{ width: WIDTH }}>
      <div className={styles.head}>
        {frames.length > 1 ? (
          <>
            <strong>
              {at + 1} of {frames.length}
            </strong>
            {seconds !== null && ` · ${seconds.toFixed(1)} s`}
          </>
        ) : (
          frames.length === 1 && 'a single frame'
        )}
      </div>
      <ol ref={list} aria-label={many(frames.length, 'frame')} className={styles.list}>
        {frames.map((frame) => (
          <TakeFrame
            key={frame.id}
            frame={frame}
            current={frame.id === current}
            hidden={hides(frame.id)}
            onGo={onGo}
          />
        ))}
      </ol>
      {children}
    </aside>
  );
});

/** Pixels that a frame takes up in the column: picture, caption line and what is around them. */
const FRAME = 116;

const TakeFrame = memo(function TakeFrame({
  frame,
  current,
  hidden,
  onGo,
}: {
  frame: LoadedFrame;
  current: boolean;
  hidden: boolean;
  onGo: (id: string) => void;
}) {
  return (
    <li className={styles.item} data-hidden={hidden || undefined} data-verdict={frame.verdict}>
      <button
        type="button"
        tabIndex={-1}
        disabled={hidden}
        aria-current={current || undefined}
        // The arrows stay with the picture.
        onMouseDown={(event) => event.preventDefault()}
        onClick={() => onGo(frame.id)}
        className={styles.frame}
      >
        <div className={styles.picture}>
          {frame.picture ? (
            <img src={previewUrl(frame.picture, 'thumb')} alt="" decoding="async" draggable={false} />
          ) : (
            'clip'
          )}
        </div>
        <div className={styles.caption}>
          <span aria-hidden className={styles.verdict} />
          <span className={styles.words}>
            <Unseen>Frame </Unseen>
            {numberOf(frame.name)} {secondsOf(frame)}
            <Unseen>
              , {frame.verdict}
              {hidden && ', hidden by the filter'}
            </Unseen>
          </span>
          <Stars stars={frame.stars} />
          {frame.label && <LabelTab label={frame.label} />}
        </div>
      </button>
    </li>
  );
});
