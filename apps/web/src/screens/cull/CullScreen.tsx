import { Box, Button, Typography } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { shownName } from '@arkiv/core';
import { useCallback, useEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import { useParams } from 'react-router';
import {
  clockOf,
  lengthOf,
  numberOf,
  placeholderOf,
  previewUrl,
  uprightSize,
  type LoadedFrame,
} from '../../data/frames';
import { count, mediumDay } from '../../data/format';
import { useSettings, useShoot } from '../../data/live';
import { labelNames } from '../../data/labels';
import { useOfOrder } from '../../data/ofOrder';
import { ContactSheet } from '../../parts/ContactSheet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { SheetCell } from '../../parts/SheetCell';
import { TextLink } from '../../parts/TextLink';
import type { SheetList } from '../../parts/sheetRows';
import { stripTicks } from '../../parts/stripView';
import { TimeStrip } from '../../parts/TimeStrip';
import { GROUND, INK } from '../../theme/theme';
import { CaptionLine } from './CaptionLine';
import type { CullFilter } from './cullState';
import { FilterDrawer } from './FilterDrawer';
import { FilterLine } from './FilterLine';
import { KeysDialog } from './KeysDialog';
import { Line } from './Line';
import type { Shown } from './shown';
import { SingleView, type Detail } from './SingleView';
import { TakeColumn } from './TakeColumn';
import { useCull } from './useCull';

/** How many neighbours are held decoded, forwards and backwards. */
const AHEAD = 3;
const BEHIND = 2;

export function CullScreen() {
  const { id } = useParams();
  // A new shoot is a new pass: nothing of the last one's state is carried over.
  return <Cull key={id} shootId={id!} />;
}

function Cull({ shootId }: { shootId: string }) {
  const cull = useCull(shootId);
  const { data: settings } = useSettings();
  const { shoot, state, shown, at, current, dispatch } = cull;
  const { frames } = shoot;
  const [detail, setDetail] = useState<Detail | null>(null);
  const neighbours = useMemo(() => around(frames, shown, at), [frames, shown, at]);
  const takeFrames = useMemo(
    () => cull.take.flatMap((frame) => shoot.byId.get(frame) ?? []),
    [cull.take, shoot.byId],
  );
  const goToFrame = useCallback((frame: string) => dispatch({ type: 'go', id: frame }), [dispatch]);
  const onFilter = useCallback((filter: CullFilter) => dispatch({ type: 'filter', filter }), [dispatch]);
  const onCell = useCallback((cell: number) => dispatch({ type: 'cell', cell }), [dispatch]);
  const onKeysClosed = useCallback(() => dispatch({ type: 'toggle', what: 'keys' }), [dispatch]);
  const labels = useMemo(() => labelNames(settings), [settings]);
  const { data: about } = useShoot(shootId);
  useScreenTitle(about ? `Cull · ${shownName(about.title)}` : 'Cull');
  const ticks = useOfOrder(shoot, ticksOf);
  const position = shown.length > 0 ? `frame ${count(at + 1)} of ${count(shown.length)}` : '';
  return (
    <Box
      component="main"
      sx={{ display: 'grid', gridTemplateRows: '56px auto minmax(0, 1fr) auto 34px', minHeight: 0 }}
    >
      <h1 style={visuallyHidden}>Cull</h1>
      <TimeStrip
        frames={frames}
        ticks={ticks}
        current={current ? shoot.order.placeOf(current.id) : -1}
        clock={current ? clockOf(current).slice(0, 5) : undefined}
        hides={shown.hides}
        judged={shown.judged}
        version={shoot.version}
        changedSince={shoot.changedSince}
        onGo={goToFrame}
      />
      <FilterLine chips={cull.chips} hidden={shown.hidden} all={shoot.order.length} onFilter={onFilter} />
      <Box sx={{ display: 'flex', minHeight: 0 }}>
        <Box sx={{ flex: 1, minWidth: 0, minHeight: 0 }}>
          {!shoot.loaded && !shoot.failure && <Loading what="the frames" />}
          {shoot.failure && (
            <Box sx={{ p: 3 }}>
              <Problem error={shoot.failure} />
            </Box>
          )}
          {shoot.loaded && shoot.order.length === 0 && <NothingYet mergedInto={about?.mergedInto ?? null} />}
          {cull.empty && (
            <AllHidden
              words={cull.empty}
              count={shoot.order.length}
              onShow={() => cull.run({ do: 'showAll' })}
            />
          )}
          {current && state.view === 'single' && (
            <SingleView
              frame={current}
              neighbours={neighbours}
              surround={state.surround}
              onDetail={setDetail}
            />
          )}
          {current && state.view === 'sheet' && <Sheet cull={cull} />}
        </Box>
        {current && state.view === 'single' && state.column && (
          <TakeColumn frames={takeFrames} current={current.id} hides={shown.hidesFrame} onGo={goToFrame} />
        )}
        {state.drawer && <FilterDrawer shoot={shoot} filter={state.filter} onFilter={onFilter} />}
      </Box>
      {/* One child, so that the rows of the grid stay where they are. */}
      <Box sx={{ minWidth: 0 }}>
        {cull.prompt && <Line words={cull.prompt} note="Esc leaves" />}
        {cull.offer && (
          <Line
            words={cull.offer}
            action={{ words: 'Undo', keys: 'Ctrl Z', run: () => cull.run({ do: 'undo' }) }}
            onEnd={cull.endOffer}
          />
        )}
      </Box>
      <CaptionLine
        frame={current}
        position={position}
        facts={state.facts}
        detail={state.view === 'single' ? detail : null}
        labels={labels}
        selected={cull.selected.length}
        stepOn={state.stepOn}
        notice={cull.notice}
        cell={state.view === 'sheet' ? state.cell : null}
        onCell={onCell}
      />
      <KeysDialog open={state.keys} onClose={onKeysClosed} />
    </Box>
  );
}

function Sheet({ cull }: { cull: ReturnType<typeof useCull> }) {
  const { shoot, shown, takes, state, dispatch, at } = cull;
  const selection = useMemo(() => new Set(cull.selected), [cull.selected]);
  const groups = useOfOrder(shoot, hoursOf);
  const list = useMemo(() => shownList(shown, groups), [shown, groups]);
  const latest = useRef(shown);
  useEffect(() => {
    latest.current = shown;
  });
  const pick = useCallback(
    (i: number, event: MouseEvent) => {
      const how = event.shiftKey ? 'range' : event.ctrlKey || event.metaKey ? 'toggle' : 'only';
      const id = latest.current.id(i);
      if (id) dispatch({ type: 'pick', id, how, visible: latest.current });
    },
    [dispatch],
  );
  const open = useCallback(() => dispatch({ type: 'view', view: 'single' }), [dispatch]);
  return (
    <Box sx={{ height: '100%', pl: 2, bgcolor: GROUND.base }}>
      <ContactSheet
        label="Contact sheet"
        list={list}
        cell={state.cell}
        current={at}
        follow={state.filter}
        onLayout={cull.onLayout}
        render={(i, width, height, id) => {
          const frame = shoot.frames[shown.places[i]!]!;
          return (
            <SheetCell
              index={i}
              id={id}
              src={frame.picture ? previewUrl(frame.picture, 'thumb') : null}
              name={`Frame ${numberOf(frame.name)}, ${frame.verdict}, ${frame.stars} stars`}
              caption={captionOf(frame)}
              verdict={frame.verdict}
              stars={frame.stars}
              label={frame.label}
              selected={selection.has(frame.id)}
              current={i === at}
              take={takes.placeOf(shown, i)}
              noPicture={placeholderOf(frame)}
              sign={frame.sign}
              width={width}
              height={height}
              aspect={aspectOf(frame)}
              onPick={pick}
              onOpen={open}
            />
          );
        }}
      />
    </Box>
  );
}

const ticksOf = (frames: readonly LoadedFrame[]) =>
  stripTicks(frames.map(({ instant, time }) => ({ instant, clock: time?.slice(11, 16) ?? '' })));

/** Frames of one hour stand together: the first one's place in the shoot's order, and the heading. */
function hoursOf(frames: readonly LoadedFrame[]): { from: number; to: number; heading: string }[] {
  const hours: { from: number; to: number; heading: string; hour: string }[] = [];
  frames.forEach((frame, place) => {
    const hour = frame.time?.slice(0, 13) ?? '';
    const last = hours.at(-1);
    if (last?.hour === hour) last.to = place + 1;
    else hours.push({ from: place, to: place + 1, heading: headingOf(frame), hour });
  });
  return hours;
}

function shownList(shown: Shown, groups: ReturnType<typeof hoursOf>): SheetList {
  const sections = groups.flatMap(({ from, to, heading }) => {
    const first = shown.countBefore(from);
    const count = shown.countBefore(to) - first;
    return count === 0 ? [] : [{ heading, from: first, count }];
  });
  return {
    count: shown.length,
    key: (i) => shown.id(i),
    indexOf: (id) => shown.indexOf(id),
    sections,
  };
}

function aspectOf(frame: LoadedFrame): number | null {
  const size = uprightSize(frame);
  return size && size.width / size.height;
}

const captionOf = (frame: LoadedFrame): string =>
  [
    numberOf(frame.name),
    clockOf(frame).slice(0, 8),
    ...(frame.seconds ? [`clip ${lengthOf(frame.seconds)}`] : []),
  ].join(' · ');

const headingOf = (frame: LoadedFrame): string =>
  frame.time ? `${mediumDay(frame.time.slice(0, 10))}, ${frame.time.slice(11, 13)}:00` : 'No capture time';

function around(frames: readonly LoadedFrame[], shown: Shown, at: number): string[] {
  const order = [1, -1, 2, -2, 3].filter((d) => d <= AHEAD && -d <= BEHIND);
  return order.flatMap((d) => frames[shown.places[at + d] ?? -1]?.picture ?? []);
}

function AllHidden({ words, count, onShow }: { words: string; count: number; onShow: () => void }) {
  return (
    <Box sx={{ height: '100%', display: 'grid', placeItems: 'center' }}>
      <Box sx={{ textAlign: 'center' }}>
        <Typography variant="h2" sx={{ mb: 2 }}>
          {words}
        </Typography>
        <Button variant="contained" onClick={onShow}>
          Show all {count}
        </Button>
        <Box sx={{ color: INK.faint, mt: 1 }}>Backspace does the same. No file was touched.</Box>
      </Box>
    </Box>
  );
}

function NothingYet({ mergedInto }: { mergedInto: string | null }) {
  const { data: other } = useShoot(mergedInto ?? undefined);
  if (mergedInto !== null)
    return (
      <Box sx={{ height: '100%', display: 'grid', placeItems: 'center' }}>
        <Box sx={{ textAlign: 'center' }}>
          <Typography variant="h2">This shoot has no frames any more.</Typography>
          <Box sx={{ color: INK.soft, mt: 1 }}>
            They are in{' '}
            <TextLink to={`/shoots/${mergedInto}/cull`}>
              {other ? shownName(other.title) : 'another shoot'}
            </TextLink>
            . Marks that were made here can still be taken back.
          </Box>
        </Box>
      </Box>
    );
  return (
    <Box sx={{ height: '100%', display: 'grid', placeItems: 'center' }}>
      <Box sx={{ textAlign: 'center' }}>
        <Typography variant="h2">No frame of this shoot is verified yet.</Typography>
        <Box sx={{ color: INK.soft, mt: 1 }}>
          Frames appear here one by one as their copies are proven. <TextLink to="/">To the Desk</TextLink>
        </Box>
      </Box>
    </Box>
  );
}
