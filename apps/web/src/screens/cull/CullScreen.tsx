import { Box } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { pilesOf, shownName } from '@arkiv/core';
import { memo, useCallback, useEffect, useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { clockOf, type LoadedFrame } from '../../data/frames';
import { count } from '../../data/format';
import { ALL_FOUND, foundId } from '../../data/frameSource';
import type { Api } from '../../data/http';
import { useSettings, useShoot } from '../../data/live';
import { useOfOrder } from '../../data/ofOrder';
import { shootStore } from '../../data/shootStore';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { stripTicks } from '../../parts/stripView';
import { TimeStrip } from '../../parts/TimeStrip';
import { SURROUNDS } from '../../theme/theme';
import { ArrangeDialog } from '../files/ArrangeDialog';
import { WhereDialog } from '../files/WhereDialog';
import { CameraDialog } from './CameraDialog';
import { CaptionLine } from './CaptionLine';
import { CullDrawer } from './CullDrawer';
import { type CullFilter } from './cullFilter';
import { FilterLine } from './FilterLine';
import { FolderPath } from './FolderPath';
import { FinishOvers, FinishPart } from './finish/FinishPart';
import { FoundLine, FoundTitle } from './FoundHere';
import { Histogram } from './Histogram';
import { KeysDialog } from './KeysDialog';
import type { DetailSaid } from './ladder';
import { AllHidden, NothingYet } from './NothingHere';
import { Pane } from './Pane';
import { PassesDialog } from './passes/PassesDialog';
import type { Shown } from './shown';
import { SheetView } from './SheetView';
import { SideView } from './SideView';
import { stripRows } from './takes/takes';
import { CullLines } from './CullLines';
import { TakeColumn } from './takes/TakeColumn';
import { TouchBar, useFingers } from './TouchBar';
import { useCull } from './useCull';
import { useMeasuring } from './useMeasuring';
import { useClientRemarks } from './useClientRemarks';
import { useWentOutById } from './useWentOutById';
import { useVersion } from './useVersion';
import { useRunThrough } from './useRunThrough';
import styles from './Cull.module.css';

/** Neighbours to make ready, the likeliest first: how many places further they stand. */
const AROUND = [1, -1, 2, -2, 3, 4, 5, 6, 7, 8, -3, -4];

const NO_FRAMES: readonly LoadedFrame[] = [];

export function CullScreen() {
  const { id } = useParams();
  return <CullOf id={id!} />;
}

/** Cull over what was found anywhere in the archive: the question stands in the address. */
export function FoundCullScreen() {
  const { question = '' } = useParams();
  return <CullOf id={foundId(question === ALL_FOUND ? '' : question)} />;
}

function CullOf({ id }: { id: string }) {
  const { data: settings, error } = useSettings();
  // The frames come meanwhile.
  shootStore(id);
  // By which rules the keys write is known before one is pressed.
  if (!settings)
    return (
      <main className={styles.cull}>
        <h1 style={visuallyHidden}>Cull</h1>
        {error ? <Problem error={error} /> : <Loading what="the studio’s rules" />}
      </main>
    );
  // A new shoot is a new pass: nothing of the last one's state is carried over.
  return <Cull key={id} shootId={id} />;
}

function Cull({ shootId }: { shootId: string }) {
  const cull = useCull(shootId);
  const { shoot, state, shown, at, current, dispatch, looking, names: labels, run } = cull;
  const { frames } = shoot;
  const [detail, setDetail] = useState<DetailSaid | null>(null);
  const onDetail = useCallback(
    (next: DetailSaid) => setDetail((now) => (now?.words === next.words ? now : next)),
    [],
  );
  const ids = aroundIds(shown, at);
  const neighbours = useMemo(() => ids.split(' ').flatMap((id) => shoot.byId.get(id) ?? []), [ids, shoot]);
  const takeFrames = useMemo(
    () => cull.take.flatMap((frame) => shoot.byId.get(frame) ?? []),
    [cull.take, shoot.byId],
  );
  const panes = useMemo(
    () => state.panes.flatMap((id) => shoot.byId.get(id) ?? []),
    [state.panes, shoot.byId],
  );
  const goToFrame = useCallback((frame: string) => dispatch({ type: 'go', id: frame }), [dispatch]);
  const onFilter = useCallback((filter: CullFilter) => dispatch({ type: 'filter', filter }), [dispatch]);
  const onCell = useCallback((cell: number) => dispatch({ type: 'cell', cell }), [dispatch]);
  const onKeysClosed = useCallback(() => dispatch({ type: 'toggle', what: 'keys' }), [dispatch]);
  const onCameraClosed = useCallback(() => dispatch({ type: 'toggle', what: 'camera' }), [dispatch]);
  const onCamera = useCallback(() => run({ do: 'camera' }), [run]);
  const onFinish = useCallback(() => run({ do: 'finish' }), [run]);
  const onSwipe = useCallback((by: 1 | -1) => run({ do: 'step', by }), [run]);
  const [spot, setSpot] = useState<{ x: number; y: number } | null>(null);
  const points = state.noteLine && state.view === 'single' && cull.targets === 1;
  // Another frame, or another note, is pointed into anew.
  useEffect(() => setSpot(null), [current?.id, state.noteLine]);
  useAlone(state.alone);
  const waits = useRunThrough(state, current, shown, at, dispatch);
  const ticks = useOfOrder(shoot, ticksOf);
  // Marks move no frame and no take: the frames of the order are enough.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const rows = useMemo(() => stripRows(frames, cull.takes), [shoot.order, cull.takes]);
  const clockPairs = cull.clock?.pairs;
  const sameMoments = useMemo(
    () =>
      clockPairs?.flatMap(([a, b]) =>
        shoot.order.has(a) && shoot.order.has(b)
          ? [[shoot.order.placeOf(a), shoot.order.placeOf(b)] as const]
          : [],
      ),
    [clockPairs, shoot.order],
  );
  // On a folded sheet each frame is one take.
  const position = current
    ? `${cull.folds ? 'take' : 'frame'} ${count(at + 1)} of ${count(shown.length)}`
    : '';
  const takePosition =
    current && !cull.folds
      ? `take ${count(cull.takes.numberOf(current.id))} of ${count(cull.takes.length)}`
      : '';
  const large = state.view !== 'sheet';
  const { pictured, words: versionWords } = useVersion(current, state.version);
  const fingers = useFingers();
  const wentOut = useWentOutById(shootId);
  const remarks = useClientRemarks(shootId);
  const measuring = useMeasuring(shootId, shoot, state.order, state.filter);
  const caption = (
    <CaptionLine
      frame={current}
      position={position}
      takePosition={takePosition}
      facts={state.facts}
      detail={state.view === 'single' || state.view === 'run' ? detail : null}
      version={state.view === 'single' || state.view === 'run' ? versionWords : ''}
      labels={labels}
      piles={current ? pileNames(current, cull.piles) : ''}
      remarks={current ? remarks.get(current.id) : undefined}
      wentOut={current ? (wentOut.get(current.id) ?? null) : null}
      selected={cull.selected.length}
      stepOn={state.stepOn}
      notice={cull.notice}
      cell={state.view === 'sheet' ? state.cell : null}
      onCell={onCell}
      onCamera={onCamera}
      onFinish={state.view === 'sheet' || state.view === 'run' ? undefined : onFinish}
    />
  );
  return (
    <main className={styles.cull} data-alone={state.alone || undefined}>
      <h1 style={visuallyHidden}>Cull</h1>
      {cull.found ? <FoundTitle id={shootId} /> : <Title shootId={shootId} />}
      {!state.alone && (
        <div className={styles.above}>
          <TimeStrip
            frames={frames}
            ticks={ticks}
            rows={rows}
            current={current ? shoot.order.placeOf(current.id) : -1}
            clock={current ? clockOf(current).slice(0, 5) : undefined}
            hides={shown.hides}
            judged={shown.judged}
            version={shoot.version}
            changedSince={shoot.changedSince}
            pairs={sameMoments}
            onGo={goToFrame}
          />
          {cull.found && shoot.loaded && <FoundLine id={shootId} frames={shoot.order.length} />}
          {!cull.found && (
            <FolderPath
              shootId={shootId}
              shoot={shoot}
              line={state.filter.text ?? ''}
              onLine={(text) => onFilter({ ...state.filter, text })}
            />
          )}
          <FilterLine chips={cull.chips} hidden={shown.hidden} all={shoot.order.length} onFilter={onFilter} />
        </div>
      )}
      <div className={styles.middle}>
        <div className={styles.pictures}>
          {!shoot.loaded && !shoot.failure && <Loading what="the frames" />}
          {shoot.failure && (
            <Box sx={{ p: 3 }}>
              <Problem error={shoot.failure} />
            </Box>
          )}
          {shoot.loaded && shoot.order.length === 0 && !cull.found && <NothingYet shootId={shootId} />}
          {cull.empty && (
            <AllHidden
              words={cull.empty}
              count={shoot.order.length}
              onShow={() => cull.run({ do: 'showAll' })}
            />
          )}
          {current && (state.view === 'single' || state.view === 'run') && (
            <div className={styles.single} style={{ background: SURROUNDS[state.surround] }}>
              <Pane
                name="single"
                frame={pictured ?? current}
                around={neighbours}
                looking={looking}
                over={state.over}
                onDetail={onDetail}
                onSwipe={onSwipe}
                onPoint={points ? setSpot : undefined}
                spot={spot}
              />
              <FinishOvers cull={cull} frame={current} />
            </div>
          )}
          {current && state.view === 'side' && (
            <SideView
              frames={panes}
              current={current.id}
              surround={state.surround}
              looking={looking}
              over={state.over}
              facts={state.facts}
              onGo={goToFrame}
              valuesOf={state.finishing === null ? null : cull.finishing.of}
            />
          )}
          {current && state.view === 'sheet' && <SheetView cull={cull} />}
          {state.alone && current && large && (
            <div
              className={styles.fading}
              key={`${current.id} ${current.verdict} ${current.stars} ${current.label}`}
            >
              {caption}
            </div>
          )}
        </div>
        {current && state.view === 'single' && (state.column || state.histogram) && !state.alone && (
          <TakeColumn
            frames={state.column ? takeFrames : NO_FRAMES}
            current={current.id}
            kind={cull.ofTake?.kind ?? null}
            lead={cull.ofTake?.lead ?? current.id}
            corrected={cull.ofTake?.corrected ?? false}
            onTake={run}
            keyOf={cull.keyOf}
            hides={shown.hidesFrame}
            onGo={goToFrame}
          >
            {state.histogram && <Histogram picture={pictured?.picture ?? null} />}
          </TakeColumn>
        )}
        {state.finishing !== null && !state.alone && <FinishPart cull={cull} />}
        {state.drawer && !state.alone && (
          <CullDrawer
            cull={cull}
            shootId={shootId}
            measuring={measuring}
            bodies={rows.lanes}
            onFilter={onFilter}
          />
        )}
      </div>
      <CullLines cull={cull} spot={spot} points={points} waits={waits} onGo={goToFrame} />
      {!state.alone && (
        <div style={{ minWidth: 0 }}>
          {fingers && (
            <TouchBar
              frame={current}
              view={state.view}
              selected={cull.selected.length}
              canUndo={shoot.canUndo}
              onRun={run}
            />
          )}
          {caption}
        </div>
      )}
      {state.camera && current && <CameraDialog frame={current} onClose={onCameraClosed} />}
      {state.where && (
        <WhereDialog
          frames={cull.chosen}
          onClose={() => state.where && dispatch({ type: 'toggle', what: 'where' })}
        />
      )}
      {state.arranging && (
        <ArrangeDialog
          frames={cull.chosen}
          shootId={shootId}
          onClose={() => state.arranging && dispatch({ type: 'toggle', what: 'arranging' })}
          onDone={cull.say}
        />
      )}
      <KeysDialog open={state.keys} onClose={onKeysClosed} />
      {state.passes && (
        <PassesDialog
          shootId={shootId}
          shoot={shoot}
          shown={shown}
          chips={cull.chips.map(({ words }) => words)}
          rules={cull.rules}
          pile={cull.pile}
          onBegin={cull.pass.begin}
          onGoOn={cull.pass.goOn}
          onClose={() => dispatch({ type: 'toggle', what: 'passes' })}
        />
      )}
    </main>
  );
}

/** By itself: the shoot's numbers change with each mark, and what stands beside them need not be drawn anew. */
const Title = memo(function Title({ shootId }: { shootId: string }) {
  const { data: about } = useShoot(shootId);
  useScreenTitle(about ? `Cull · ${shownName(about.title)}` : 'Cull');
  return null;
});

/** The piles that a frame is in, as they are called. */
const pileNames = (frame: LoadedFrame, piles: readonly Api['PileDto'][]): string =>
  pilesOf(frame)
    .flatMap((id) => piles.find((pile) => pile.id === id)?.name ?? [])
    .join(', ');

/** While the picture is looked at alone, the job line over all screens is away too. */
function useAlone(alone: boolean): void {
  useEffect(() => {
    if (!alone) return;
    document.documentElement.dataset.alone = '';
    return () => void delete document.documentElement.dataset.alone;
  }, [alone]);
}

/** Ids of the frames to make ready, the likeliest first; the same text while they are the same. */
function aroundIds(shown: Shown, at: number): string {
  return AROUND.flatMap((d) => shown.id(at + d) ?? []).join(' ');
}

const ticksOf = (frames: readonly LoadedFrame[]) =>
  stripTicks(frames.map(({ instant, time }) => ({ instant, clock: time?.slice(11, 16) ?? '' })));
