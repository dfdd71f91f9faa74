import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App as AntApp, Button, ConfigProvider } from 'antd';
import { Suspense, useEffect, useState, type ReactNode } from 'react';
import { createBrowserRouter, Link, Navigate, RouterProvider } from 'react-router';
import { storageTrouble } from '../storage/threads.ts';
import { ErrorScreen } from './ErrorScreen.tsx';
import { NewBuild } from './NewBuild.tsx';
import { part } from './part.ts';
import { OUTSIDE } from '../kit/outside.ts';
import { STEPS, type Step } from './places.ts';
import { Skeleton } from './Skeleton.tsx';
import { Notice } from '../kit/Notice.tsx';
import { PathView } from '../views/path/PathView.tsx';
import { ThreadFrame } from './ThreadFrame.tsx';
import { theme } from '../kit/theme.ts';

/** Views that come when they are wanted. The path is in the page's own script: as a few files less it is sooner there. */
const parts = {
  shelf: part(() => import('../views/shelf/ShelfView.tsx').then((m) => m.ShelfView)),
  needs: part(() => import('../views/needs/NeedsView.tsx').then((m) => m.NeedsView)),
  run: part(() => import('../views/run/RunView.tsx').then((m) => m.RunView)),
  charge: part(() => import('../views/charge/ChargeView.tsx').then((m) => m.ChargeView)),
  outage: part(() => import('../views/outage/OutageView.tsx').then((m) => m.OutageView)),
  bench: part(() => import('../views/bench/BenchView.tsx').then((m) => m.BenchView)),
  cells: part(() => import('../views/cells/CellsView.tsx').then((m) => m.CellsView)),
  stage: part(() => import('../views/stage/StageView.tsx').then((m) => m.StageView)),
};

const ShelfView = parts.shelf.View;
const CellsView = parts.cells.View;
const StageView = parts.stage.View;
const NeedsView = parts.needs.View;
const RunView = parts.run.View;
const ChargeView = parts.charge.View;
const OutageView = parts.outage.View;
const BenchView = parts.bench.View;

const VIEWS: Record<Step['id'], ReactNode> = {
  needs: <NeedsView />,
  run: <RunView />,
  charge: <ChargeView />,
  outage: <OutageView />,
  bench: <BenchView />,
  path: <PathView />,
  sizing: <StageView />,
};

/** What an address needs is fetched side by side, while the database opens. */
export async function preload(pathname: string): Promise<void> {
  const needed = !pathname.startsWith('/thread/')
    ? pathname === OUTSIDE.cells.to
      ? parts.cells
      : parts.shelf
    : Object.entries({
        '/sizing/': parts.stage,
        '/needs': parts.needs,
        '/run': parts.run,
        '/charge': parts.charge,
        '/outage': parts.outage,
        '/bench': parts.bench,
      }).find(([at]) => pathname.includes(at))?.[1];
  // What cannot be had now is asked for again, and told, when it is shown.
  await needed?.load().catch(() => {});
}

const router = createBrowserRouter([
  { path: OUTSIDE.shelf.to, element: <ShelfView />, errorElement: <ErrorScreen /> },
  { path: OUTSIDE.cells.to, element: <CellsView />, errorElement: <ErrorScreen /> },
  {
    path: '/thread/:id',
    element: <ThreadFrame />,
    errorElement: <ErrorScreen />,
    children: [
      { index: true, element: <Navigate to="path" replace /> },
      ...STEPS.map(({ id, route }) => ({ path: route, element: VIEWS[id] })),
    ],
  },
  {
    path: '*',
    element: <Notice title="Nothing is here" actions={<Link to="/">To the shelf</Link>} />,
  },
]);

const queries = new QueryClient();

/** [ms] A database that has not answered by then is said to be silent. */
const SILENT = 5000;

type Opening = 'opening' | 'ready' | 'silent' | { trouble: string };

/** The whole application. */
export function App({ opening }: { opening: Promise<void> }) {
  const [state, setState] = useState<Opening>('opening');
  useEffect(() => {
    const silent = setTimeout(() => setState((s) => (s === 'opening' ? 'silent' : s)), SILENT);
    opening
      .then(
        () => setState('ready'),
        (error: unknown) => setState({ trouble: storageTrouble(error) }),
      )
      .finally(() => clearTimeout(silent));
    return () => clearTimeout(silent);
  }, [opening]);
  return (
    <ConfigProvider theme={theme} button={{ autoInsertSpace: false }}>
      <AntApp message={{ top: 54 }}>
        <QueryClientProvider client={queries}>
          <Opened state={state} />
          <NewBuild />
        </QueryClientProvider>
      </AntApp>
    </ConfigProvider>
  );
}

function Opened({ state }: { state: Opening }) {
  if (state === 'opening') return <Skeleton />;
  if (state === 'ready') {
    return (
      <Suspense fallback={<Skeleton />}>
        <RouterProvider router={router} />
      </Suspense>
    );
  }
  if (state === 'silent') {
    return (
      <Notice
        title="The browser’s storage does not answer"
        text="Another tab with an older Mile Thread may hold it: close it, then reload this page. Nothing is lost."
        actions={<Button onClick={() => location.reload()}>Reload</Button>}
      />
    );
  }
  return <Notice title="Nothing can be kept in this browser" text={state.trouble} />;
}
