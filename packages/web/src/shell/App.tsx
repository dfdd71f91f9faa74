import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App as AntApp, ConfigProvider, Result, Spin } from 'antd';
import { lazy, Suspense, useEffect, useState } from 'react';
import { createBrowserRouter, Link, Navigate, RouterProvider } from 'react-router';
import { seed, storageTrouble } from '../storage/threads.ts';
import { ErrorScreen } from './ErrorScreen.tsx';
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
      { path: 'stage/:stageId', element: <StageView /> },
    ],
  },
  {
    path: '*',
    element: <Result status="404" title="Nothing is here" extra={<Link to="/">To the shelf</Link>} />,
  },
]);

const queries = new QueryClient();

/** The whole application. */
export function App() {
  const [state, setState] = useState<'opening' | 'ready' | { trouble: string }>('opening');
  useEffect(() => {
    seed().then(
      () => setState('ready'),
      (error: unknown) => setState({ trouble: storageTrouble(error) }),
    );
  }, []);
  return (
    <ConfigProvider theme={theme} button={{ autoInsertSpace: false }}>
      <AntApp message={{ top: 54 }}>
        <QueryClientProvider client={queries}>
          {typeof state === 'object' ? (
            <Result status="warning" title="Nothing can be kept in this browser" subTitle={state.trouble} />
          ) : (
            state === 'ready' && (
              <Suspense fallback={<Spin className="waiting" size="large" />}>
                <RouterProvider router={router} />
              </Suspense>
            )
          )}
        </QueryClientProvider>
      </AntApp>
    </ConfigProvider>
  );
}
