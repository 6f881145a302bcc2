import type { Label, Verdict } from '@arkiv/core';
import {
  memo,
  useRef,
  useState,
  useSyncExternalStore,
  type DragEvent,
  type MouseEvent,
  type ReactNode,
} from 'react';
import { pictureTries } from '../data/pictureTries';
import { CAPTION_HEIGHT, GAP, MARGIN } from './ContactSheet';
import { DRAGGED } from './dragged';
import { KeepRing, LabelTab, RejectStrike, Stars } from './Marks';
import styles from './SheetCell.module.css';

interface Props {
  /** which one of the sheet's it is, told to whoever hears of a click: one function serves all cells */
  index: number;
  id?: string;
  src: string | null;
  /** what a screen reader says */
  name: string;
  caption: ReactNode;
  verdict: Verdict;
  stars: number;
  label: Label | null;
  selected: boolean;
  current: boolean;
  dimmed?: boolean;
  width: number;
  height: number;
  /** the picture's own width by height; null: not known, and it gets the whole cell */
  aspect?: number | null;
  /** where it stands on its take's strip; null: it is alone; not given: this sheet knows no takes */
  take?: 'first' | 'middle' | 'last' | null;
  /** being chosen is the usual state here, and is not drawn */
  plain?: boolean;
  /** stands first in the caption line: what a click chooses, where one on the picture opens it */
  control?: ReactNode;
  /** what is wrong with its file */
  sign?: string | null;
  /** said across the picture when it has none */
  noPicture?: string;
  onPick: (index: number, held: Pick<MouseEvent, 'shiftKey' | 'ctrlKey' | 'metaKey'>) => void;
  onOpen?: (index: number) => void;
  /** it can be taken by the mouse and let go over another cell */
  drags?: boolean;
  /** what was taken is let go over this one; not given: nothing is taken on this sheet */
  onDrop?: (index: number) => void;
}

const isDragged = (event: DragEvent) => event.dataTransfer.types.includes(DRAGGED);

/** Pixels at each side of a take: twice that and the gap lie between two. */
const APART = 5;
/** Milliseconds of a finger's press that chooses, as touch devices have it. */
const PRESSED = 500;

/** The largest size of a picture in a box. */
function fitted(width: number, height: number, aspect: number | null): { width: number; height: number } {
  if (aspect === null) return { width, height };
  return aspect > width / height
    ? { width, height: Math.round(width / aspect) }
    : { width: Math.round(height * aspect), height };
}

/** A frame on a contact sheet: picture, marks in the margin, and a caption line like a film's edge. */
export const SheetCell = memo(function SheetCell(props: Props) {
  const {
    index,
    onPick,
    onOpen,
    id,
    src,
    name,
    caption,
    verdict,
    stars,
    label,
    selected: chosen,
    current,
    plain,
    dimmed,
    width,
    height,
    aspect = null,
    take,
    noPicture = 'no picture',
    sign = null,
    control,
    drags = false,
    onDrop,
  } = props;
  const [over, setOver] = useState(false);
  const selected = chosen && !plain;
  // Frames of a take lie close, and what is another's lies apart.
  const [left, right] = [
    take === null || take === 'first' ? APART : 0,
    take === null || take === 'last' ? APART : 0,
  ];
  const own = width - left - right;
  const shown = fitted(own - MARGIN * 2, height - MARGIN * 2, aspect);
  // The ring goes round the picture, not round the cell.
  const around = { width: shown.width + MARGIN * 2, height: shown.height + MARGIN * 2 };
  const press = useRef<{ timer?: ReturnType<typeof setTimeout>; chose: boolean }>({ chose: false });
  const tries = useSyncExternalStore(pictureTries.subscribe, pictureTries.snapshot);
  const [failed, setFailed] = useState<{ src: string; tries: number } | null>(null);
  return (
    <div
      id={id}
      role="option"
      aria-selected={chosen}
      aria-label={name}
      data-current={current || undefined}
      onClick={(event) => {
        if (!press.current.chose) onPick(index, event);
        press.current.chose = false;
      }}
      onPointerDown={(event) => {
        press.current.chose = false;
        if (event.pointerType !== 'touch') return;
        press.current.timer = setTimeout(() => {
          press.current.chose = true;
          onPick(index, { shiftKey: false, ctrlKey: true, metaKey: false });
        }, PRESSED);
      }}
      onPointerMove={(event) =>
        Math.abs(event.movementX) + Math.abs(event.movementY) > 3 && clearTimeout(press.current.timer)
      }
      onPointerUp={() => clearTimeout(press.current.timer)}
      onPointerCancel={() => clearTimeout(press.current.timer)}
      onContextMenu={(event) => press.current.chose && event.preventDefault()}
      onDoubleClick={() => onOpen?.(index)}
      draggable={drags || undefined}
      onDragStart={(event) => event.dataTransfer.setData(DRAGGED, '')}
      onDragOver={(event) => {
        if (!onDrop || !isDragged(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false);
        if (!onDrop || !isDragged(event)) return;
        event.preventDefault();
        event.stopPropagation();
        onDrop(index);
      }}
      data-over={over || undefined}
      className={styles.cell}
    >
      <div
        className={styles.picture}
        style={{ width: own, height, marginLeft: left }}
        data-selected={selected || undefined}
        data-current={current || undefined}
      >
        {src && (src !== failed?.src || tries !== failed.tries) ? (
          <img
            src={src}
            alt=""
            draggable={false}
            decoding="async"
            onError={() => setFailed({ src, tries })}
            data-faint={dimmed || verdict === 'reject' || undefined}
            style={shown}
          />
        ) : (
          noPicture
        )}
        {verdict === 'keep' && <KeepRing {...around} />}
        {verdict === 'reject' && <RejectStrike {...around} />}
      </div>
      {take && <TakeLine take={take} width={width} top={height} />}
      <div className={styles.caption} style={{ height: CAPTION_HEIGHT }}>
        {control}
        <span className={styles.words}>
          {caption}
          {sign && <span className={styles.sign}> · {sign}</span>}
        </span>
        <Stars stars={stars} />
        {label && <LabelTab label={label} />}
      </div>
    </div>
  );
});

/** The common base line of a take's frames, with its ends turned up like the edge of a cut strip. */
function TakeLine({ take, width, top }: { take: 'first' | 'middle' | 'last'; width: number; top: number }) {
  const left = take === 'first' ? APART + 6 : -GAP / 2;
  const right = take === 'last' ? APART + 6 : -GAP / 2;
  return (
    <div
      aria-hidden
      data-take={take}
      className={styles.take}
      style={{ top: top - 1, left, width: width - left - right }}
    />
  );
}
