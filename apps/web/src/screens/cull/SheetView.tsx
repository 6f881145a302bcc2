import { Box } from '@mui/material';
import { bodyNames, TAKE_KIND_WORDS, type Heading, type Take } from '@arkiv/core';
import { useCallback, useEffect, useMemo, useRef, type DragEvent, type MouseEvent } from 'react';
import {
  clockOf,
  lengthOf,
  numberOf,
  placeholderOf,
  thumbUrl,
  uprightSize,
  type LoadedFrame,
} from '../../data/frames';
import { ContactSheet } from '../../parts/ContactSheet';
import { DRAGGED } from '../../parts/dragged';
import { SheetCell } from '../../parts/SheetCell';
import type { SheetList } from '../../parts/sheetRows';
import { GROUND, SURROUNDS } from '../../theme/theme';
import { timeWords } from './facetValues';
import type { Shown } from './shown';
import type { useCull } from './useCull';

/** The contact sheet of Cull. */
export function SheetView({ cull }: { cull: ReturnType<typeof useCull> }) {
  const { shoot, shown, takes, folds, state, dispatch, at } = cull;
  const selection = useMemo(() => new Set(cull.selected), [cull.selected]);
  const { heading } = state.order;
  // Another filter or order is another sheet: the frame that one stands at is brought into view.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const follow = useMemo(() => ({}), [state.filter, state.order]);
  const words = useMemo(() => headingWords(cull.names), [cull.names]);
  const list = useMemo(() => shownList(shown, heading, words), [shown, heading, words]);
  const latest = useRef(shown);
  useEffect(() => {
    latest.current = shown;
  });
  const pick = useCallback(
    (i: number, event: Pick<MouseEvent, 'shiftKey' | 'ctrlKey' | 'metaKey'>) => {
      const how = event.shiftKey ? 'range' : event.ctrlKey || event.metaKey ? 'toggle' : 'only';
      const id = latest.current.id(i);
      if (id) dispatch({ type: 'pick', id, how, visible: latest.current });
    },
    [dispatch],
  );
  const open = useCallback(() => dispatch({ type: 'view', view: 'single' }), [dispatch]);
  const onSize = useCallback((by: 1 | -1) => dispatch({ type: 'size', by }), [dispatch]);
  const onLasso = useCallback(
    (indices: readonly number[], { add }: { add: boolean }) =>
      dispatch({ type: 'lasso', ids: indices.flatMap((i) => latest.current.id(i) ?? []), add }),
    [dispatch],
  );
  const { run } = cull;
  const drop = useCallback(
    (i: number) => {
      const id = latest.current.id(i);
      if (id) run({ do: 'takeTo', id });
    },
    [run],
  );
  const isDragged = (event: DragEvent) => event.dataTransfer.types.includes(DRAGGED);
  return (
    <Box
      // Beside the frames it stands alone.
      onDragOver={(event) => isDragged(event) && event.preventDefault()}
      onDrop={(event) => isDragged(event) && run({ do: 'take', deed: 'out' })}
      sx={{ height: '100%', pl: 2, bgcolor: GROUND.base, ...SHEET_GROUNDS[state.surround] }}
    >
      <ContactSheet
        label="Contact sheet"
        list={list}
        cell={state.cell}
        current={at}
        follow={follow}
        onLayout={cull.onLayout}
        onSize={onSize}
        onLasso={onLasso}
        render={(i, width, height, id) => {
          const frame = shoot.frames[shown.places[i]!]!;
          return (
            <SheetCell
              index={i}
              id={id}
              src={thumbUrl(frame)}
              name={`Frame ${numberOf(frame.name)}, ${frame.verdict}, ${frame.stars} stars`}
              caption={captionOf(frame, folds ? takes.with(frame.id) : null)}
              verdict={frame.verdict}
              stars={frame.stars}
              label={frame.label}
              selected={selection.has(frame.id)}
              current={i === at}
              take={folds ? null : takes.placeOf(shown, i)}
              noPicture={placeholderOf(frame)}
              sign={frame.sign}
              width={width}
              height={height}
              aspect={aspectOf(frame)}
              // From any other frame a hand draws a rectangle.
              drags={selection.has(frame.id)}
              onDrop={drop}
              onPick={pick}
              onOpen={open}
            />
          );
        }}
      />
    </Box>
  );
}

const shownList = (shown: Shown, heading: Heading, words: HeadingWords): SheetList => ({
  count: shown.length,
  key: (i) => shown.id(i),
  indexOf: (id) => shown.indexOf(id),
  sections: shown.sections.map(({ key, from, count: frames }) => ({
    heading: words(heading, key),
    from,
    count: frames,
  })),
});

/** The sheet in each surround: what is written on it has to be read there. The second is the interface's own. */
const SHEET_GROUNDS: readonly Record<string, string>[] = [
  { bgcolor: SURROUNDS[0], '--deep': SURROUNDS[0] },
  {},
  {
    bgcolor: SURROUNDS[2],
    '--deep': SURROUNDS[2],
    '--soft': '#ffffff',
    '--faint': '#ffffff',
    '--strike-text': '#ffffff',
  },
  {
    ...{ bgcolor: SURROUNDS[3], '--deep': SURROUNDS[3], '--full': '#111111', '--soft': '#3a3a3a' },
    ...{ '--faint': '#555555', '--strike-text': '#a8321f' },
  },
];

type HeadingWords = (heading: Heading, key: string) => string;

/** A heading as it is read. */
const headingWords =
  (labels: Readonly<Record<string, string>>): HeadingWords =>
  (heading, key) => {
    if (heading === 'none') return '';
    if (heading === 'label') return key === '' ? 'no label' : `${key} ${labels[key] ?? ''}`;
    if (heading === 'stars') return key === '0' ? 'no stars' : `${key}★`;
    if (key === '') return heading === 'body' ? 'body unknown' : 'no capture time';
    if (heading === 'body') return bodyNames([key]).get(key) ?? key;
    return timeWords(key);
  };

function aspectOf(frame: LoadedFrame): number | null {
  const size = uprightSize(frame);
  return size && size.width / size.height;
}

/** `take`: the one that it stands for. */
const captionOf = (frame: LoadedFrame, take: Take | null): string =>
  [
    ...(take && take.ids.length > 1
      ? [`+${take.ids.length - 1} ${take.kind ? TAKE_KIND_WORDS[take.kind] : ''}`]
      : []),
    numberOf(frame.name),
    clockOf(frame).slice(0, 8),
    ...(frame.seconds ? [`clip ${lengthOf(frame.seconds)}`] : []),
    ...(frame.edited === null ? (frame.finished === null ? [] : ['finished']) : ['edited']),
    ...(frame.note === null ? [] : ['✎']),
    ...(frame.piles === '' ? [] : ['in a pile']),
  ].join(' · ');
