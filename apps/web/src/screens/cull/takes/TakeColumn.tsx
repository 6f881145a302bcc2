import { measuresIn, meritsOf, TAKE_KIND_WORDS, TAKE_KINDS, type Merit, type TakeKind } from '@arkiv/core';
import { memo, useEffect, useMemo, useRef, type ReactNode } from 'react';
import { numberOf, secondsOf, thumbUrl, type LoadedFrame } from '../../../data/frames';
import { many } from '../../../data/format';
import type { CullCommand } from '../../../keys/actions';
import { LabelTab, Stars } from '../../../parts/Marks';
import { Unseen } from '../../../parts/Unseen';
import styles from './TakeColumn.module.css';

interface Props {
  /** what kind of take it is; null: a frame alone */
  kind: TakeKind | null;
  /** id of the frame that stands for it */
  lead: string;
  /** somebody corrected it */
  corrected: boolean;
  onTake: (command: CullCommand) => void;
  keyOf: (action: string) => string;
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
export const TakeColumn = memo(function TakeColumn(props: Props) {
  const { frames, current, kind, lead, corrected, hides, onGo, onTake, keyOf, children } = props;
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
  const merits = useMemo(
    () =>
      meritsOf(
        frames.map(({ id, measures }) => ({ id, measures: measuresIn(measures) })),
        kind,
      ),
    [frames, kind],
  );
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
            {seconds !== null && ` · ${lasted(seconds)}`}
            <br />
            {kind && TAKE_KIND_WORDS[kind]}
            {corrected && ' · corrected'}
          </>
        ) : (
          frames.length === 1 && 'a single frame'
        )}
      </div>
      {/* A long take scrolls, by keys too. */}
      <ol ref={list} aria-label={many(frames.length, 'frame')} tabIndex={0} className={styles.list}>
        {frames.map((frame) => (
          <TakeFrame
            key={frame.id}
            frame={frame}
            current={frame.id === current}
            hidden={hides(frame.id)}
            lead={frames.length > 1 && frame.id === lead}
            merit={merits.get(frame.id) ?? null}
            onGo={onGo}
          />
        ))}
      </ol>
      {frames.length > 0 && (
        <TakeTools several={frames.length > 1} kind={kind} onTake={onTake} keyOf={keyOf} />
      )}
      {children}
    </aside>
  );
});

/** How long a take lasted, as it is read. */
const lasted = (seconds: number): string =>
  seconds < 60 ? `${seconds.toFixed(1)} s` : `${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s`;

const TOOLS = [
  ['take-split', 'split', 'Split', 'A new take begins with this frame'],
  ['take-join', 'join', 'Join', 'Joins this take with the one before it'],
  ['take-out', 'out', 'Out', 'Takes this frame out of its take: it stands alone'],
  ['take-lead', 'lead', 'Lead', 'This frame stands for its take'],
] as const;

/** What can be said of the take with the mouse. No file is touched by any of it. */
function TakeTools({
  several,
  kind,
  onTake,
  keyOf,
}: {
  several: boolean;
  kind: TakeKind | null;
  onTake: (command: CullCommand) => void;
  keyOf: (action: string) => string;
}) {
  return (
    <div role="group" aria-label="Correct the take" className={styles.tools}>
      {TOOLS.map(([action, deed, words, says]) => (
        <button
          key={deed}
          type="button"
          tabIndex={-1}
          disabled={deed !== 'join' && !several}
          title={`${says}. ${keyOf(action)}`}
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onTake({ do: 'take', deed })}
        >
          {words}
        </button>
      ))}
      {several && (
        <select
          aria-label="Kind of the take"
          tabIndex={-1}
          value={kind ?? ''}
          onChange={(event) => {
            onTake({ do: 'takeKind', kind: event.target.value as TakeKind });
            // The arrows stay with the picture.
            event.target.blur();
          }}
        >
          {TAKE_KINDS.map((one) => (
            <option key={one} value={one}>
              {TAKE_KIND_WORDS[one]}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}

/** Pixels that a frame takes up in the column: picture, caption line, bar, a line of words and what is around them. */
const FRAME = 138;

const TakeFrame = memo(function TakeFrame({
  frame,
  current,
  hidden,
  lead,
  merit,
  onGo,
}: {
  frame: LoadedFrame;
  current: boolean;
  hidden: boolean;
  /** it stands for its take */
  lead: boolean;
  /** what is said of it beside the others of its take; null: nothing */
  merit: Merit | null;
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
          {frame.picture ? <img src={thumbUrl(frame)!} alt="" decoding="async" draggable={false} /> : 'clip'}
        </div>
        <div className={styles.caption}>
          <span aria-hidden className={styles.verdict} />
          <span className={styles.words}>
            <Unseen>Frame </Unseen>
            {lead && <span title="Stands for its take">▸ </span>}
            {numberOf(frame.name)} {secondsOf(frame)}
            <Unseen>
              , {frame.verdict}
              {hidden && ', hidden by the filter'}
            </Unseen>
          </span>
          <Stars stars={frame.stars} />
          {frame.label && <LabelTab label={frame.label} />}
        </div>
        {merit && <MeritLine merit={merit} />}
      </button>
    </li>
  );
});

/** Doublings below the sharpest at which a bar is empty: what is an eighth as sharp is out of focus or shaken. */
const DOUBLINGS = 3;

/** How sharp a frame is beside the sharpest of its take, as a bar, and what else tells it from the others, in words. */
function MeritLine({ merit: { place, softer, words } }: { merit: Merit }) {
  const share = softer === null ? null : Math.max(0, 1 - softer / DOUBLINGS);
  const told = words.join(', ');
  return (
    <>
      {share !== null && (
        <div className={styles.sharp} title="How sharp it is, beside the sharpest of the take">
          <span style={{ width: `${Math.round(share * 100)}%` }} data-best={share === 1 || undefined} />
        </div>
      )}
      {(place !== null || told !== '') && (
        <div className={styles.merit} title={told === '' ? undefined : told}>
          {place !== null && (
            <>
              <Unseen>in order of merit </Unseen>
              {ordinal(place)}
              {told !== '' && ' · '}
            </>
          )}
          {told}
        </div>
      )}
    </>
  );
}

/** Third, as it is read: 3rd. */
function ordinal(n: number): string {
  const ending = n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${ending}`;
}
