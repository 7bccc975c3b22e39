import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { lazy, Suspense, useEffect, useMemo } from 'react';
import { Boundary } from './ui/Boundary.tsx';
import { RawLog } from './sync/RawLog.tsx';
import { useFocusHere } from './ui/useFocusHere.ts';
import { Navigate, Outlet, Route, Routes, useLocation, useParams } from 'react-router';
import { SignInPage } from './features/sign-in/SignInPage.tsx';
import { TodayPage } from './features/today/TodayPage.tsx';
import { useAppSelector } from './store/index.ts';
import { useMeQuery } from './store/api.ts';
import { keepMe, keptMe, MeContext } from './store/me.ts';
import { useLeaving } from './store/leaving.ts';
import { outbox } from './sync/outbox.ts';
import { themeOf } from './theme/theme.ts';
import { Shell } from './ui/Shell.tsx';
import { Failed, Loading, problemOf } from './ui/States.tsx';

const SitesPage = lazy(async () => ({ default: (await import('./features/sites/SitesPage.tsx')).SitesPage }));
const SitePage = lazy(async () => ({ default: (await import('./features/sites/SitePage.tsx')).SitePage }));
const KindsPage = lazy(async () => ({ default: (await import('./features/kinds/KindsPage.tsx')).KindsPage }));
const DuePage = lazy(async () => ({ default: (await import('./features/due/DuePage.tsx')).DuePage }));
const PracticePage = lazy(async () => ({
  default: (await import('./features/practice/PracticePage.tsx')).PracticePage,
}));
const PracticeRunPage = lazy(async () => ({
  default: (await import('./features/work/practice/RunPage.tsx')).RunPage,
}));
const DebriefPage = lazy(async () => ({
  default: (await import('./features/practice/DebriefPage.tsx')).DebriefPage,
}));
const OverviewPage = lazy(async () => ({
  default: (await import('./features/practice/OverviewPage.tsx')).OverviewPage,
}));
const LifePage = lazy(async () => ({ default: (await import('./features/life/LifePage.tsx')).LifePage }));
const PeoplePage = lazy(async () => ({
  default: (await import('./features/people/PeoplePage.tsx')).PeoplePage,
}));
const AccountPage = lazy(async () => ({
  default: (await import('./features/account/AccountPage.tsx')).AccountPage,
}));
const SetupPage = lazy(async () => ({ default: (await import('./features/setup/SetupPage.tsx')).SetupPage }));
const ExchangePage = lazy(async () => ({
  default: (await import('./features/exchange/ExchangePage.tsx')).ExchangePage,
}));
const SharedPage = lazy(async () => ({
  default: (await import('./features/share/SharedPage.tsx')).SharedPage,
}));
const GaugesPage = lazy(async () => ({
  default: (await import('./features/gauges/GaugesPage.tsx')).GaugesPage,
}));
const GaugePage = lazy(async () => ({
  default: (await import('./features/gauges/GaugePage.tsx')).GaugePage,
}));
const ReckonerPage = lazy(async () => ({
  default: (await import('./features/reckoner/ReckonerPage.tsx')).ReckonerPage,
}));
const TracesPage = lazy(async () => ({
  default: (await import('./features/traces/TracesPage.tsx')).TracesPage,
}));
const PlanPage = lazy(async () => ({ default: (await import('./features/plan/PlanPage.tsx')).PlanPage }));
const WorkPage = lazy(async () => ({ default: (await import('./features/work/WorkPage.tsx')).WorkPage }));
const SheetPage = lazy(async () => ({ default: (await import('./features/sheet/SheetPage.tsx')).SheetPage }));

export function App() {
  const name = useAppSelector((s) => s.ui.theme);
  useFocusHere();
  const theme = useMemo(() => themeOf(name), [name]);
  useEffect(() => {
    document.documentElement.dataset['theme'] = name;
    document
      .querySelector('meta[name=theme-color]')
      ?.setAttribute('content', name === 'plant' ? '#14110b' : '#f4efe4');
  }, [name]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <Boundary>
        <Routes>
          <Route path="/sign-in" element={<SignInPage />} />
          <Route
            path="/setup"
            element={
              <Suspense fallback={<Loading what="the first page" />}>
                <SetupPage />
              </Suspense>
            }
          />
          <Route
            path="/shared/:token"
            element={
              <Suspense fallback={<Loading what="the sheet" />}>
                <SharedPage />
              </Suspense>
            }
          />
          <Route path="*" element={<SignedIn />} />
        </Routes>
      </Boundary>
    </ThemeProvider>
  );
}

/** A page of a job that cannot be drawn shows the job's log. */
function OfAJob() {
  const { id = '' } = useParams();
  return (
    <Boundary also={<RawLog job={id} />}>
      <Outlet />
    </Boundary>
  );
}

/** Everything behind the sign-in; with no signal the account last used on this device goes on. */
function SignedIn() {
  // Somebody signed out here while the server could not be told: it is told first.
  const leaving = useLeaving();
  const me = useMeQuery(undefined, { skip: leaving });
  const location = useLocation();
  const problem = problemOf(me.error);
  const reached = problem === undefined || (problem.status > 0 && problem.status < 500);
  const account = useMemo(
    () => (leaving ? undefined : (me.data ?? (reached ? undefined : keptMe()))),
    [leaving, me.data, reached],
  );
  useEffect(() => {
    if (me.data) keepMe(me.data);
  }, [me.data]);
  useEffect(() => {
    if (account) outbox.use(account.id);
  }, [account]);
  if (account)
    return (
      <MeContext value={account}>
        <Suspense fallback={<Loading what="the page" />}>
          <Routes>
            <Route element={<OfAJob />}>
              <Route path="/jobs/:id/sheet" element={<SheetPage />} />
              <Route path="/jobs/:id" element={<WorkPage />} />
            </Route>
            <Route path="/practice/runs/:id" element={<PracticeRunPage />} />
            <Route element={<Shell />}>
              <Route path="/practice" element={<PracticePage />} />
              <Route path="/practice/overview" element={<OverviewPage />} />
              <Route path="/practice/runs/:id/debrief" element={<DebriefPage />} />
              <Route path="/" element={<TodayPage />} />
              <Route path="/due" element={<DuePage />} />
              <Route path="/sites" element={<SitesPage />} />
              <Route path="/sites/:id" element={<SitePage />} />
              <Route path="/new-control" element={<KindsPage />} />
              <Route path="/exchange" element={<ExchangePage />} />
              <Route path="/people" element={<PeoplePage />} />
              <Route path="/account" element={<AccountPage />} />
              <Route path="/controls/:id/life" element={<LifePage />} />
              <Route path="/gauges" element={<GaugesPage />} />
              <Route path="/gauges/:id" element={<GaugePage />} />
              <Route path="/reckoner" element={<ReckonerPage />} />
              <Route path="/traces/:id?" element={<TracesPage />} />
              <Route path="/controls/:id" element={<PlanPage />} />
              <Route path="*" element={<Navigate to="/" replace />} />
            </Route>
          </Routes>
        </Suspense>
      </MeContext>
    );
  if (leaving) return <Navigate to="/sign-in" replace />;
  if (me.isLoading) return <Loading what="your account" />;
  if (problem?.status === 401)
    return <Navigate to="/sign-in" replace state={{ from: location.pathname + location.search }} />;
  return <Failed problem={problem} retry={() => void me.refetch()} />;
}
