import { Box } from '@mui/material';
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
  type MouseEvent,
} from 'react';
import { pictureTries } from '../../data/pictureTries';
import { numberOf, placeholderOf, previewUrl, thumbUrl, uprightSize } from '../../data/frames';
import { ContactSheet, type SheetLayout } from '../../parts/ContactSheet';
import { SheetCell } from '../../parts/SheetCell';
import { sheetList } from '../../parts/sheetRows';
import { INK } from '../../theme/theme';
import type { Describe } from './useDescribe';

/** The frames that are described, as a contact sheet; what they say of themselves stands under them. */
export function DescribeSheet({
  describe,
  onLayout,
  onOpen,
}: {
  describe: Describe;
  onLayout: (layout: SheetLayout) => void;
  onOpen: () => void;
}) {
  const { shoot, shown, at, targets } = describe;
  const list = useMemo(() => sheetList(shown.ids.map((key) => ({ key, heading: '' }))), [shown]);
  const chosen = useMemo(() => new Set(targets.map(({ id }) => id)), [targets]);
  const latest = useRef(describe);
  useEffect(() => {
    latest.current = describe;
  });
  const pick = useCallback((i: number, event: Pick<MouseEvent, 'shiftKey' | 'ctrlKey' | 'metaKey'>) => {
    latest.current.pick(i, event.shiftKey ? 'range' : event.ctrlKey || event.metaKey ? 'toggle' : 'only');
  }, []);
  const onLasso = useCallback((indices: readonly number[], { add }: { add: boolean }) => {
    const { shown: now, targets: before, chooseThese } = latest.current;
    const drawn = indices.flatMap((i) => now.id(i) ?? []);
    if (drawn.length > 0) chooseThese([...new Set([...(add ? before.map(({ id }) => id) : []), ...drawn])]);
  }, []);
  return (
    <ContactSheet
      label="Frames that are described"
      list={list}
      cell={176}
      current={at}
      follow={shown}
      onLayout={onLayout}
      onLasso={onLasso}
      render={(i, width, height, id) => {
        const frame = shoot.byId.get(shown.id(i)!);
        if (!frame) return null;
        return (
          <SheetCell
            index={i}
            id={id}
            src={thumbUrl(frame)}
            name={`Frame ${numberOf(frame.name)}, ${frame.caption ?? 'no caption'}`}
            caption={
              <>
                {numberOf(frame.name)} ·{' '}
                {frame.caption ?? <span style={{ color: 'var(--faint)' }}>no caption</span>}
              </>
            }
            verdict={frame.verdict}
            stars={frame.stars}
            label={frame.label}
            selected={chosen.has(frame.id)}
            current={i === at}
            noPicture={placeholderOf(frame)}
            width={width}
            height={height}
            aspect={aspectOf(uprightSize(frame))}
            onPick={pick}
            onOpen={onOpen}
          />
        );
      }}
    />
  );
}

const aspectOf = (size: { width: number; height: number } | null) => (size ? size.width / size.height : null);

/** The frame that is stood at, as large as there is room: to see who it is, and what is on the shirt. */
export function DescribeSingle({ describe }: { describe: Describe }) {
  const { current, shown, at } = describe;
  const tries = useSyncExternalStore(pictureTries.subscribe, pictureTries.snapshot);
  const [failed, setFailed] = useState<{ picture: string; tries: number } | null>(null);
  if (!current) return null;
  const { picture } = current;
  // What cannot be fetched now is tried again with the others; until then what is kept small stands there.
  const away = failed !== null && failed.picture === picture && failed.tries === tries;
  return (
    <Box
      sx={{ height: '100%', display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', pr: 2 }}
      aria-label={`Frame ${current.name}`}
      role="img"
    >
      {picture ? (
        <Box
          component={away ? 'div' : 'img'}
          key={`${picture} ${away}`}
          {...(!away && {
            src: previewUrl(picture, 'screen'),
            alt: '',
            onError: () => setFailed({ picture, tries }),
          })}
          // Until it is there, what is kept small already.
          style={{ backgroundImage: `url(${thumbUrl(current)})` }}
          sx={{
            ...{ width: '100%', height: '100%', objectFit: 'contain' },
            ...{ backgroundSize: 'contain', backgroundPosition: 'center', backgroundRepeat: 'no-repeat' },
          }}
        />
      ) : (
        <Box sx={{ alignSelf: 'center', justifySelf: 'center', color: INK.soft }}>
          {placeholderOf(current)}
        </Box>
      )}
      <Box sx={{ py: 1, color: INK.soft }}>
        {numberOf(current.name)} · {at + 1} of {shown.length}
      </Box>
    </Box>
  );
}
