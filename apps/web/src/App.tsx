import { Box } from '@mui/material';
import { lazy, Suspense, useEffect, useSyncExternalStore } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Route, Routes, useLocation } from 'react-router';
import { useLiveData, useSettings } from './data/live';
import { session } from './data/session';
import { markQueue } from './data/shootStore';
import { Arrived } from './parts/Arrived';
import { JobLine } from './parts/JobLine';
import { ScreenFailed } from './parts/ScreenFailed';
import { ServerAway } from './parts/ServerAway';
import { ArrivalScreen } from './screens/arrival/ArrivalScreen';
import { CullScreen } from './screens/cull/CullScreen';
import { DeliverScreen } from './screens/deliver/DeliverScreen';
import { DeskScreen } from './screens/desk/DeskScreen';
import { FilesScreen } from './screens/files/FilesScreen';
import { HandoffScreen } from './screens/handoff/HandoffScreen';
import { IntakeScreen } from './screens/intake/IntakeScreen';
import { NowhereScreen } from './screens/NowhereScreen';
import { SignInScreen } from './screens/signin/SignInScreen';
import { StudioScreen } from './screens/studio/StudioScreen';
import { WelcomeScreen } from './screens/welcome/WelcomeScreen';
import { ShootsScreen } from './screens/shoots/ShootsScreen';

// Only the demo has these: nobody else loads them.
const StandInsScreen = lazy(() =>
  import('./screens/standins/StandInsScreen').then((m) => ({ default: m.StandInsScreen })),
);
const LookScreen = lazy(() => import('./screens/look/LookScreen').then((m) => ({ default: m.LookScreen })));

export function App() {
  const needed = useSyncExternalStore(session.subscribe, session.isNeeded);
  // Everything that was asked for in vain, the stream of events included, begins anew.
  return needed ? <SignInScreen onSignedIn={() => location.reload()} /> : <SignedIn />;
}

function SignedIn() {
  useLiveData();
  const { pathname } = useLocation();
  const { data: settings } = useSettings();
  const archive = settings?.archive.id;
  useEffect(() => {
    if (archive) markQueue.belongsTo(archive);
  }, [archive]);
  return (
    <Box sx={{ display: 'grid', gridTemplateRows: '48px auto minmax(0, 1fr)', height: '100vh' }}>
      <JobLine />
      <ServerAway />
      <ErrorBoundary FallbackComponent={ScreenFailed} resetKeys={[pathname]}>
        <Suspense fallback={<Box component="main" />}>
          <Routes>
            <Route path="/" element={<DeskScreen />} />
            <Route path="/intake/:reader" element={<IntakeScreen />} />
            <Route path="/arrival" element={<ArrivalScreen />} />
            <Route path="/studio" element={<StudioScreen />} />
            <Route path="/welcome" element={<WelcomeScreen />} />
            <Route path="/shoots" element={<ShootsScreen />} />
            <Route path="/shoots/:id/cull" element={<CullScreen />} />
            <Route path="/shoots/:id/files" element={<FilesScreen />} />
            <Route path="/shoots/:id/handoff" element={<HandoffScreen />} />
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
    </Box>
  );
}
