import { Box, Button, Typography } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { shownName } from '@arkiv/core';
import { useCallback, useMemo, useState, type MouseEvent } from 'react';
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
import { ContactSheet } from '../../parts/ContactSheet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { SheetCell } from '../../parts/SheetCell';
import { TextLink } from '../../parts/TextLink';
import { stripTicks, TimeStrip } from '../../parts/TimeStrip';
import { GROUND, INK } from '../../theme/theme';
import { CaptionLine } from './CaptionLine';
import { FilterDrawer } from './FilterDrawer';
import { FilterLine } from './FilterLine';
import { KeysDialog } from './KeysDialog';
import { Line } from './Line';
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
  const { shoot, state, visible, at, current, dispatch } = cull;
  const [detail, setDetail] = useState<Detail | null>(null);
  const neighbours = useMemo(() => around(visible, at), [visible, at]);
  const strip = useMemo(
    () =>
      shoot.frames.map((f) => ({
        id: f.id,
        instant: f.instant,
        clock: f.time?.slice(11, 16) ?? '',
        verdict: f.verdict,
        hidden: cull.hiddenIds.has(f.id),
      })),
    [shoot.frames, cull.hiddenIds],
  );
  const takeFrames = useMemo(
    () => cull.take.flatMap((frame) => shoot.byId.get(frame) ?? []),
    [cull.take, shoot.byId],
  );
  const goToFrame = useCallback((frame: string) => dispatch({ type: 'go', id: frame }), [dispatch]);
  const { data: about } = useShoot(shootId);
  useScreenTitle(about ? `Cull · ${shownName(about.title)}` : 'Cull');
  const { loads } = shoot;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- marks change the frames but not where they stand
  const ticks = useMemo(() => stripTicks(strip), [loads]);
  const position = visible.length > 0 ? `frame ${count(at + 1)} of ${count(visible.length)}` : '';
  return (
    <Box
      component="main"
      sx={{ display: 'grid', gridTemplateRows: '56px auto minmax(0, 1fr) auto 34px', minHeight: 0 }}
    >
      <h1 style={visuallyHidden}>Cull</h1>
      <TimeStrip frames={strip} ticks={ticks} current={current?.id ?? null} onGo={goToFrame} />
      <FilterLine
        chips={cull.chips}
        hidden={cull.hiddenIds.size}
        all={shoot.frames.length}
        onFilter={(filter) => dispatch({ type: 'filter', filter })}
      />
      <Box sx={{ display: 'flex', minHeight: 0 }}>
        <Box sx={{ flex: 1, minWidth: 0, minHeight: 0 }}>
          {!shoot.loaded && !shoot.failure && <Loading what="the frames" />}
          {shoot.failure && (
            <Box sx={{ p: 3 }}>
              <Problem error={shoot.failure} />
            </Box>
          )}
          {shoot.loaded && shoot.frames.length === 0 && <NothingYet mergedInto={about?.mergedInto ?? null} />}
          {cull.empty && (
            <AllHidden
              words={cull.empty}
              count={shoot.frames.length}
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
          <TakeColumn frames={takeFrames} current={current.id} hidden={cull.hiddenIds} onGo={goToFrame} />
        )}
        {state.drawer && (
          <FilterDrawer
            frames={shoot.frames}
            filter={state.filter}
            onFilter={(filter) => dispatch({ type: 'filter', filter })}
          />
        )}
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
        labels={labelNames(settings)}
        selected={cull.selected.length}
        stepOn={state.stepOn}
        notice={cull.notice}
        cell={state.view === 'sheet' ? state.cell : null}
        onCell={(cell) => dispatch({ type: 'cell', cell })}
      />
      <KeysDialog open={state.keys} onClose={() => dispatch({ type: 'toggle', what: 'keys' })} />
    </Box>
  );
}

function Sheet({ cull }: { cull: ReturnType<typeof useCull> }) {
  const { visible, visibleIds, state, dispatch, at, places } = cull;
  const selection = useMemo(() => new Set(cull.selected), [cull.selected]);
  const entries = useMemo(() => visible.map((f) => ({ key: f.id, heading: headingOf(f) })), [visible]);
  const pick = useCallback(
    (id: string, event: MouseEvent) => {
      const how = event.shiftKey ? 'range' : event.ctrlKey || event.metaKey ? 'toggle' : 'only';
      dispatch({ type: 'pick', id, how, visible: visibleIds });
    },
    [dispatch, visibleIds],
  );
  return (
    <Box sx={{ height: '100%', pl: 2, bgcolor: GROUND.base }}>
      <ContactSheet
        label="Contact sheet"
        entries={entries}
        cell={state.cell}
        current={at}
        follow={state.filter}
        onLayout={cull.onLayout}
        render={(i, width, height, id) => {
          const frame = visible[i]!;
          return (
            <SheetCell
              id={id}
              src={frame.picture ? previewUrl(frame.picture, 'thumb') : null}
              name={`Frame ${numberOf(frame.name)}, ${frame.verdict}, ${frame.stars} stars`}
              caption={captionOf(frame)}
              verdict={frame.verdict}
              stars={frame.stars}
              label={frame.label}
              selected={selection.has(frame.id)}
              current={i === at}
              take={places[i]}
              noPicture={placeholderOf(frame)}
              sign={frame.sign}
              width={width}
              height={height}
              aspect={aspectOf(frame)}
              onPick={(event) => pick(frame.id, event)}
              onOpen={() => dispatch({ type: 'view', view: 'single' })}
            />
          );
        }}
      />
    </Box>
  );
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

function around(visible: readonly LoadedFrame[], at: number): string[] {
  const order = [1, -1, 2, -2, 3].filter((d) => d <= AHEAD && -d <= BEHIND);
  return order.flatMap((d) => visible[at + d]?.picture ?? []);
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
