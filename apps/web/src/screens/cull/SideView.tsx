import { bodyNames } from '@arkiv/core';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { clockOf, numberOf, uprightSize, type LoadedFrame, type Sized } from '../../data/frames';
import type { Over } from '../../data/pixels';
import { LabelTab, Stars } from '../../parts/Marks';
import { SURROUNDS } from '../../theme/theme';
import { paneOf } from './sideCommands';
import type { DetailSaid } from './ladder';
import { FinishOver } from './finish/FinishOver';
import type { Looking } from './looking';
import { Pane } from './Pane';
import { useFollowing } from './useFollowing';
import { fitScale, type Size } from './zoom';
import styles from './SideView.module.css';

interface Props {
  frames: readonly LoadedFrame[];
  current: string;
  surround: number;
  looking: Looking;
  over: 'none' | Over;
  facts: 'none' | 'short' | 'full';
  onGo: (id: string) => void;
  /** while they are finished: the values that a frame is to be seen with */
  valuesOf: ((frame: LoadedFrame) => string) | null;
}

const NOTHING_AHEAD: readonly LoadedFrame[] = [];

/** Pixels of the line below each picture, with the border around both. */
const BELOW = 30;

/** How many columns show all frames largest in a room: pictures are wider than high, or not. */
export function columnsFor(frames: readonly Sized[], room: Size): number {
  const scaleWith = (columns: number): number => {
    const place = {
      width: room.width / columns,
      height: room.height / Math.ceil(frames.length / columns) - BELOW,
    };
    return Math.min(...frames.map((frame) => fitScale(uprightSize(frame) ?? COMMON, place, 1)));
  };
  const columns = Array.from({ length: frames.length }, (_, i) => i + 1);
  // Of equals the one that stands side by side.
  return columns.reduce((best, next) => (scaleWith(next) >= scaleWith(best) ? next : best), 1);
}

/** What is taken for a frame whose size nobody has read. */
const COMMON: Size = { width: 3, height: 2 };

/** Two to six frames beside each other; what of their facts differs stands out. */
export const SideView = memo(function SideView(props: Props) {
  const { frames, current, surround, looking, over, facts, onGo, valuesOf } = props;
  const box = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState<Size>({ width: 1280, height: 660 });
  useEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setRoom({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  const unsure = useFollowing(frames, looking);
  const columns = columnsFor(frames, room);
  const lists = useMemo(() => factsBeside(frames), [frames]);
  return (
    <div
      ref={box}
      className={styles.side}
      role="group"
      aria-label="Side by side"
      style={{
        gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
        gridAutoRows: 'minmax(0, 1fr)',
        background: SURROUNDS[surround],
      }}
    >
      {frames.map((frame, i) => (
        <One
          key={frame.id}
          frame={frame}
          current={frame.id === current}
          looking={looking}
          apart={unsure.has(frame.id)}
          over={over}
          facts={facts === 'none' ? NO_FACTS : lists[i]!}
          values={valuesOf && frame.picture && frame.edited === null ? valuesOf(frame) : null}
          onGo={onGo}
        />
      ))}
    </div>
  );
});

type Facts = readonly { name: string; words: string; differs: boolean }[];
const NO_FACTS: Facts = [];

/** Each frame's facts: first those in which the frames differ, then what they share. A time always differs and says little. */
export function factsBeside(frames: readonly LoadedFrame[]): Facts[] {
  const bodies = bodyNames(frames.flatMap(({ body }) => body ?? []));
  const of = (frame: LoadedFrame): [string, string | null][] => [
    ['shutter', frame.exposureText],
    ['aperture', frame.apertureText],
    ['iso', frame.iso ? `ISO ${frame.iso}` : null],
    ['focal length', frame.focalLength ? `${Math.round(frame.focalLength)} mm` : null],
    ['lens', frame.lens],
    ['body', frame.body && (bodies.get(frame.body) ?? frame.body)],
  ];
  const all = frames.map(of);
  return frames.map((frame, i) => {
    const facts = all[i]!.flatMap(([name, words], at) => {
      const differs = all.some((other) => other[at]![1] !== words);
      return words === null ? [] : [{ name, words, differs }];
    });
    const time = { name: 'time', words: clockOf(frame), differs: false };
    return [...facts.filter(({ differs }) => differs), time, ...facts.filter(({ differs }) => !differs)];
  });
}

function One({
  frame,
  current,
  looking,
  apart,
  over,
  facts,
  values,
  onGo,
}: {
  frame: LoadedFrame;
  current: boolean;
  looking: Looking;
  /** it could not be laid over the first: it shows equal places */
  apart: boolean;
  over: 'none' | Over;
  facts: Facts;
  values: string | null;
  onGo: (id: string) => void;
}) {
  const [detail, setDetail] = useState<DetailSaid | null>(null);
  const onDetail = useCallback(
    (next: DetailSaid) => setDetail((now) => (now?.words === next.words ? now : next)),
    [],
  );
  const go = () => !current && onGo(frame.id);
  return (
    <div
      className={styles.one}
      role="group"
      aria-label={`Frame ${numberOf(frame.name)}, ${frame.verdict}`}
      data-current={current || undefined}
      // Whatever a hand does with a picture, its frame is the one that keys go to.
      onPointerDown={go}
    >
      <div className={styles.picture}>
        <Pane
          name={paneOf({ view: 'side' }, frame.id)}
          frame={frame}
          around={NOTHING_AHEAD}
          looking={looking}
          over={over}
          onDetail={onDetail}
        />
        {values !== null && (
          <FinishOver
            name={paneOf({ view: 'side' }, frame.id)}
            frame={frame}
            values={values}
            looking={looking}
          />
        )}
      </div>
      <div className={styles.line}>
        <span className={styles.number}>{numberOf(frame.name)}</span>
        <span className={styles.facts}>
          {facts.map(({ name, words, differs }, i) => (
            <span key={name}>
              {i > 0 && ' · '}
              <span className={differs ? styles.differs : undefined}>{words}</span>
            </span>
          ))}
        </span>
        {apart && (
          <span title="It could not be laid over the first frame: zoomed together, equal places of the picture are shown.">
            ≠ place
          </span>
        )}
        {detail && (
          <span className={styles.detail} data-full={detail.full || undefined} title={detail.words}>
            {detail.full ? '■' : `◧ ${detail.words}`}
          </span>
        )}
        <span className={styles.verdict} data-verdict={frame.verdict}>
          {frame.verdict}
        </span>
        <Stars stars={frame.stars} />
        {frame.label && <LabelTab label={frame.label} />}
      </div>
    </div>
  );
}
