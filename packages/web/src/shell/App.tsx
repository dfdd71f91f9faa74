import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App as AntApp, Button, ConfigProvider, Result } from 'antd';
import { lazy, Suspense, useEffect, useState } from 'react';
import { createBrowserRouter, Link, Navigate, RouterProvider } from 'react-router';
import { seed, storageTrouble } from '../storage/threads.ts';
import { ErrorScreen } from './ErrorScreen.tsx';
import { NewBuild } from './NewBuild.tsx';
import { Skeleton } from './Skeleton.tsx';
import { theme } from '../kit/theme.ts';

const ShelfView = lazy(() => import('../views/shelf/ShelfView.tsx').then((m) => ({ default: m.ShelfView })));
const PathView = lazy(() => import('../views/path/PathView.tsx').then((m) => ({ default: m.PathView })));
const StageView = lazy(() => import('../views/stage/StageView.tsx').then((m) => ({ default: m.StageView })));
const ThreadFrame = lazy(() => import('./ThreadFrame.tsx').then((m) => ({ default: m.ThreadFrame })));

const router = createBrowserRouter([
  { path: '/', element: <ShelfView />, errorElement: <ErrorScreen /> },
  {
    path: '/thread/:id',
    element: <ThreadFrame />,
    errorElement: <ErrorScreen />,
    children: [
      { index: true, element: <Navigate to="path" replace /> },
      { path: 'path', element: <PathView /> },
      { path: 'sizing/:stageId', element: <StageView /> },
    ],
  },
  {
    path: '*',
    element: <Result status="404" title="Nothing is here" extra={<Link to="/">To the shelf</Link>} />,
  },
]);

const queries = new QueryClient();

/** [ms] A database that has not answered by then is said to be silent. */
const SILENT = 5000;

type Opening = 'opening' | 'ready' | 'silent' | { trouble: string };

/** The whole application. */
export function App() {
  const [state, setState] = useState<Opening>('opening');
  useEffect(() => {
    const silent = setTimeout(() => setState((s) => (s === 'opening' ? 'silent' : s)), SILENT);
    seed()
      .then(
        () => setState('ready'),
        (error: unknown) => setState({ trouble: storageTrouble(error) }),
      )
      .finally(() => clearTimeout(silent));
    return () => clearTimeout(silent);
  }, []);
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
      <Result
        status="warning"
        title="The browser’s storage does not answer"
        subTitle="Another tab with an older Mile Thread may hold it: close it, then reload this page. Nothing is lost."
        extra={<Button onClick={() => location.reload()}>Reload</Button>}
      />
    );
  }
  return <Result status="warning" title="Nothing can be kept in this browser" subTitle={state.trouble} />;
}
