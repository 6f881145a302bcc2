import { Slider } from '@mui/material';
import { memo } from 'react';
import { bodyNames, formatWords, keywordsIn, noteOf, shownName } from '@arkiv/core';
import { mediumDay } from '../../data/format';
import type { Api } from '../../data/http';
import { useStages } from '../../data/stages';
import { cameraClockOf, clockOf, lengthOf, numberOf, type LoadedFrame } from '../../data/frames';
import { TextLink } from '../../parts/TextLink';
import { LabelTab, Stars } from '../../parts/Marks';
import { GROUND, INK, MARKER, STRIKE_TEXT } from '../../theme/theme';
import { CELLS } from './cullState';
import type { DetailSaid } from './ladder';
import styles from './CaptionLine.module.css';

interface Props {
  frame: LoadedFrame | null;
  position: string;
  /** which take of how many; empty: the position says it */
  takePosition: string;
  facts: 'none' | 'short' | 'full';
  detail: DetailSaid | null;
  labels: Record<string, string>;
  /** which of its pictures is seen; empty: it has one */
  version?: string;
  /** the piles that it is in, as they are called */
  piles: string;
  /** what clients said of it in galleries; empty: nothing */
  remarks?: string;
  /** when it went out last; null: it never did */
  wentOut?: Api['WentOutDto'] | null;
  selected: number;
  stepOn: boolean;
  notice: string;
  /** pixels of a thumbnail on the contact sheet; null in the other views */
  cell: number | null;
  onCell: (cell: number) => void;
  /** everything the camera wrote is wanted */
  onCamera: () => void;
  /** the panel that changes how it looks; missing: not here */
  onFinish?: () => void;
}

// Plain elements: this line is drawn anew with each key.
const PARTED = { borderLeft: `1px solid ${GROUND.line}`, paddingLeft: 10 } as const;
const MARKS = {
  display: 'inline-flex',
  alignItems: 'center',
  gap: 8,
  minWidth: 130,
  flex: 'none',
  justifyContent: 'flex-end',
} as const;

/** The line below the picture, like a film's edge: number, time, facts, detail; at the right the marks. */
export const CaptionLine = memo(function CaptionLine(props: Props) {
  const { frame, position, takePosition, facts, detail, labels, piles, selected } = props;
  const { stepOn, notice, cell, onCell, onCamera, onFinish, version, wentOut, remarks } = props;
  const parts = frame ? factsOf(frame, facts) : [];
  return (
    <div className={styles.line}>
      {frame && <span style={{ color: INK.full, fontWeight: 700 }}>{numberOf(frame.name)}</span>}
      <span style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>{parts.join(' · ')}</span>
      {frame && facts === 'full' && (
        <button type="button" className={styles.more} onClick={onCamera}>
          all …
        </button>
      )}
      {frame?.picture && onFinish && (
        <button type="button" className={styles.more} title="Exposure, colours, crop" onClick={onFinish}>
          finish …
        </button>
      )}
      {piles && <span style={PARTED}>in {piles}</span>}
      {frame?.note && (
        <span className={styles.note} title={noteOf(frame.note).words}>
          ✎ {noteOf(frame.note).words}
        </span>
      )}
      {remarks && (
        <span className={styles.note} title={remarks}>
          {remarks}
        </span>
      )}
      {wentOut && (
        <span style={{ ...PARTED, whiteSpace: 'nowrap' }}>
          <TextLink to={`/ledger?frame=${wentOut.frameId}`}>
            delivered {mediumDay(new Date(wentOut.at).toISOString().slice(0, 10))}
            {wentOut.times > 1 && `, ${wentOut.times} times`}
          </TextLink>
        </span>
      )}
      {frame?.sign && <span style={{ ...PARTED, color: STRIKE_TEXT }}>{frame.sign}</span>}
      {version && <span style={{ ...PARTED, whiteSpace: 'nowrap' }}>{version}</span>}
      {/* What is said of a picture ends with it. */}
      {frame && detail && (
        <span data-testid="detail" style={{ ...PARTED, color: detail.full ? INK.faint : INK.full }}>
          {detail.full ? '■' : '◧'} {detail.words}
        </span>
      )}
      <span style={{ flex: 1 }} />
      <span
        role="status"
        title={notice}
        style={{ color: INK.full, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis' }}
      >
        {notice}
      </span>
      {cell !== null && (
        <Slider
          aria-label="Thumbnail size"
          title="Thumbnail size: + and −"
          size="small"
          min={CELLS[0]}
          max={CELLS.at(-1)}
          step={10}
          value={cell}
          onChange={(_, value) => onCell(value as number)}
          // A hand that has drawn it goes back to the keys.
          onPointerUp={() =>
            requestAnimationFrame(() => (document.activeElement as HTMLElement | null)?.blur())
          }
          sx={{ width: 110, mx: 1, flex: 'none', color: INK.soft }}
        />
      )}
      {selected > 1 && <span>{selected} selected</span>}
      {stepOn && <span>step on after marking</span>}
      {takePosition && <span style={{ flex: 'none' }}>{takePosition}</span>}
      <span style={{ flex: 'none' }}>{position}</span>
      {frame && <MarksOf frame={frame} labels={labels} />}
    </div>
  );
});

function MarksOf({ frame, labels }: { frame: LoadedFrame; labels: Record<string, string> }) {
  const stages = useStages();
  const stage = stages.find(({ id }) => id === frame.stage);
  const colour = frame.verdict === 'keep' ? MARKER : frame.verdict === 'reject' ? STRIKE_TEXT : INK.faint;
  return (
    <span data-testid="marks" style={MARKS}>
      <span style={{ color: colour, fontWeight: frame.verdict === 'undecided' ? 400 : 700 }}>
        {frame.verdict}
      </span>
      <Stars stars={frame.stars} />
      {frame.label && (
        <>
          <LabelTab label={frame.label} />
          <span>{labels[frame.label]}</span>
        </>
      )}
      {stage && <span>{stage.name}</span>}
    </span>
  );
}

const signed = (value: number): string => `${value < 0 ? '−' : '+'}${Math.abs(Math.round(value * 10) / 10)}`;

/** As it stands on a lens: 0.34 m, 3 m. */
const metres = (value: number): string => `${Number(value.toPrecision(2))} m`;

function factsOf(frame: LoadedFrame, facts: Props['facts']): string[] {
  if (facts === 'none') return [];
  const size = frame.width && frame.height ? `${frame.width} × ${frame.height}` : null;
  const short = [
    clockOf(frame),
    frame.seconds ? `clip ${lengthOf(frame.seconds)}` : null,
    frame.exposureText,
    frame.apertureText,
    frame.iso ? `ISO ${frame.iso}` : null,
    frame.focalLength ? `${Math.round(frame.focalLength)} mm` : null,
  ];
  const full = [
    shownName(frame.name),
    short[0]!,
    cameraClockOf(frame),
    ...short.slice(1),
    frame.exposureBias ? `${signed(frame.exposureBias)} EV` : null,
    frame.focus !== null && `focused at ${frame.focus === 0 ? '∞' : metres(1 / frame.focus)}`,
    frame.body && (bodyNames([frame.body]).get(frame.body) ?? null),
    frame.serial && `serial ${frame.serial}`,
    frame.lens,
    size,
    formatWords(frame.format),
    `from ${shownName(frame.original)}`,
    keywordsIn(frame.persons).join(', '),
    keywordsIn(frame.keywords).join(', '),
    frame.caption,
  ];
  return (facts === 'full' ? full : short).filter((part): part is string => Boolean(part));
}
