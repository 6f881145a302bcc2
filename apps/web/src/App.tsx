import { Box } from '@mui/material';
import { lazy, Suspense, useEffect, useState, useSyncExternalStore, type ComponentType } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { matchPath, Route, Routes, useLocation } from 'react-router';
import { fetched } from './data/fetched';
import { useLiveData, useSettings } from './data/live';
import { session } from './data/session';
import { markQueue, shootStore } from './data/shootStore';
import { Arrived } from './parts/Arrived';
import { Loading } from './parts/Loading';
import { Bookmarks } from './parts/Bookmarks';
import { JobLine } from './parts/JobLine';
import { ScreenFailed } from './parts/ScreenFailed';
import { ServerAway } from './parts/ServerAway';
import { WentInto } from './parts/WentInto';
import { DeskScreen } from './screens/desk/DeskScreen';
import { NowhereScreen } from './screens/NowhereScreen';

/** What loads a screen's code; all are fetched when the first one stands, so that going there waits for nothing. */
const loads: (() => Promise<unknown>)[] = [];

/** Milliseconds: a page that is never idle has its other screens' code a little later, not never. */
const AT_LATEST = 1000;
/** The page has nothing to do; Safari does not say. */
const idle = () =>
  new Promise<void>((resolve) => {
    if ('requestIdleCallback' in window) requestIdleCallback(() => resolve(), { timeout: AT_LATEST });
    else setTimeout(resolve, AT_LATEST / 10);
  });
/** One after another, so that what is looked at now has the machine first: together they took it a second on a small one. */
async function fetchAll(): Promise<void> {
  for (const load of loads) {
    await idle();
    await load().catch(() => undefined);
  }
}

function screen<K extends string>(name: K, load: () => Promise<Record<K, ComponentType>>): ComponentType {
  loads.push(load);
  return lazy(async () => ({ default: (await fetched(load))[name] as ComponentType }));
}

const AdoptedScreen = screen('AdoptedScreen', () => import('./screens/adopted/AdoptedScreen'));
const AlbumsScreen = screen('AlbumsScreen', () => import('./screens/albums/AlbumsScreen'));
const ArchivesScreen = screen('ArchivesScreen', () => import('./screens/archives/ArchivesScreen'));
const ArrivalScreen = screen('ArrivalScreen', () => import('./screens/arrival/ArrivalScreen'));
const BinScreen = screen('BinScreen', () => import('./screens/bin/BinScreen'));
const CarriedScreen = screen('CarriedScreen', () => import('./screens/carried/CarriedScreen'));
const FoundCullScreen = screen('FoundCullScreen', () => import('./screens/cull/CullScreen'));
const CullScreen = screen('CullScreen', () => import('./screens/cull/CullScreen'));
const DeliverScreen = screen('DeliverScreen', () => import('./screens/deliver/DeliverScreen'));
const VariantsScreen = screen('VariantsScreen', () => import('./screens/duplicates/VariantsScreen'));
const DescribeScreen = screen('DescribeScreen', () => import('./screens/describe/DescribeScreen'));
const DuplicatesScreen = screen('DuplicatesScreen', () => import('./screens/duplicates/DuplicatesScreen'));
const GuideScreen = screen('GuideScreen', () => import('./screens/guide/GuideScreen'));
const FindScreen = screen('FindScreen', () => import('./screens/find/FindScreen'));
const FilesScreen = screen('FilesScreen', () => import('./screens/files/FilesScreen'));
const HandoffScreen = screen('HandoffScreen', () => import('./screens/handoff/HandoffScreen'));
const IntakeScreen = screen('IntakeScreen', () => import('./screens/intake/IntakeScreen'));
const LedgerScreen = screen('LedgerScreen', () => import('./screens/ledger/LedgerScreen'));
const PileScreen = screen('PileScreen', () => import('./screens/piles/PileScreen'));
const SpaceScreen = screen('SpaceScreen', () => import('./screens/space/SpaceScreen'));
const ShootsScreen = screen('ShootsScreen', () => import('./screens/shoots/ShootsScreen'));
const HistoryScreen = screen('HistoryScreen', () => import('./screens/history/HistoryScreen'));
const TrailScreen = screen('TrailScreen', () => import('./screens/trail/TrailScreen'));
const UploadsScreen = screen('UploadsScreen', () => import('./screens/uploads/UploadsScreen'));
const VocabularyScreen = screen('VocabularyScreen', () => import('./screens/vocabulary/VocabularyScreen'));
const StudioScreen = screen('StudioScreen', () => import('./screens/studio/StudioScreen'));

// Seldom seen, or only in the demo: nobody else loads them.
const SignInScreen = lazy(() =>
  import('./screens/signin/SignInScreen').then((m) => ({ default: m.SignInScreen })),
);
const WelcomeScreen = lazy(() =>
  import('./screens/welcome/WelcomeScreen').then((m) => ({ default: m.WelcomeScreen })),
);
const StandInsScreen = lazy(() =>
  import('./screens/standins/StandInsScreen').then((m) => ({ default: m.StandInsScreen })),
);
const LookScreen = lazy(() => import('./screens/look/LookScreen').then((m) => ({ default: m.LookScreen })));

export function App() {
  const needed = useSyncExternalStore(session.subscribe, session.isNeeded);
  // Everything that was asked for in vain, the stream of events included, begins anew.
  return needed ? (
    <Suspense fallback={<Box component="main" />}>
      <SignInScreen onSignedIn={() => location.reload()} />
    </Suspense>
  ) : (
    <SignedIn />
  );
}

/** Stands where a screen's code is still on its way, as it is while the server is away. */
const ScreenComes = () => (
  <Box component="main" sx={{ p: 3 }}>
    <Loading what="this screen" />
  </Box>
);

function SignedIn() {
  useLiveData();
  const { pathname } = useLocation();
  const { data: settings } = useSettings();
  const archive = settings?.archive.id;
  useEffect(() => {
    if (archive) markQueue.belongsTo(archive);
  }, [archive]);
  // A shoot's frames are asked for while the code of its screen is on its way.
  useState(() => {
    const cull = matchPath('/shoots/:id/cull', pathname);
    if (cull) shootStore(cull.params.id!);
  });
  useEffect(() => void fetchAll(), []);
  return (
    <Box data-app sx={{ display: 'grid', gridTemplateRows: '48px auto minmax(0, 1fr)', height: '100vh' }}>
      <JobLine />
      <Box sx={{ minHeight: 0 }}>
        <ServerAway />
        <WentInto />
      </Box>
      <ErrorBoundary FallbackComponent={ScreenFailed} resetKeys={[pathname]}>
        <Suspense fallback={<ScreenComes />}>
          <Routes>
            <Route path="/" element={<DeskScreen />} />
            <Route path="/intake/:reader" element={<IntakeScreen />} />
            <Route path="/arrival" element={<ArrivalScreen />} />
            <Route path="/adopted" element={<AdoptedScreen />} />
            <Route path="/carried/:jobId" element={<CarriedScreen />} />
            <Route path="/guide/:page?" element={<GuideScreen />} />
            <Route path="/archives" element={<ArchivesScreen />} />
            <Route path="/bin" element={<BinScreen />} />
            <Route path="/duplicates" element={<DuplicatesScreen />} />
            <Route path="/variants" element={<VariantsScreen />} />
            <Route path="/piles/:id" element={<PileScreen />} />
            <Route path="/space" element={<SpaceScreen />} />
            <Route path="/studio" element={<StudioScreen />} />
            <Route path="/trail" element={<TrailScreen />} />
            <Route path="/uploads" element={<UploadsScreen />} />
            <Route path="/vocabulary" element={<VocabularyScreen />} />
            <Route path="/welcome" element={<WelcomeScreen />} />
            <Route path="/albums" element={<AlbumsScreen />} />
            <Route path="/albums/:id" element={<FindScreen />} />
            <Route path="/find" element={<FindScreen />} />
            <Route path="/find/:question/cull" element={<FoundCullScreen />} />
            <Route path="/ledger" element={<LedgerScreen />} />
            <Route path="/shoots" element={<ShootsScreen />} />
            <Route path="/shoots/:id/cull" element={<CullScreen />} />
            <Route path="/shoots/:id/describe" element={<DescribeScreen />} />
            <Route path="/shoots/:id/files" element={<FilesScreen />} />
            <Route path="/shoots/:id/handoff" element={<HandoffScreen />} />
            <Route path="/shoots/:id/history" element={<HistoryScreen />} />
            <Route path="/shoots/:id/deliver" element={<DeliverScreen />} />
            {settings?.standIns && (
              <>
                <Route path="/stand-ins" element={<StandInsScreen />} />
                <Route path="/look" element={<LookScreen />} />
              </>
            )}
            <Route path="*" element={<NowhereScreen />} />
          </Routes>
        </Suspense>
      </ErrorBoundary>
      <Arrived />
      <Bookmarks />
    </Box>
  );
}
