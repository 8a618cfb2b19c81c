import { Tooltip } from 'radix-ui';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { SWRConfig, type SWRConfiguration } from 'swr';
import { RequestError, fetchJson } from './api/request.ts';
import { BrokenPage } from './interface/broken-page.tsx';
import { useTheme } from './interface/theme.ts';
import { ProjectLayout } from './shell/project-layout.tsx';
import { viewRoutes } from './shell/views.tsx';
import { ProjectsPage } from './home/projects-page.tsx';

const router = createBrowserRouter([
  { path: '/', element: <ProjectsPage />, errorElement: <BrokenPage /> },
  {
    path: '/projects/:projectId',
    element: <ProjectLayout />,
    errorElement: <BrokenPage />,
    children: [{ index: true, element: <Navigate to="song" replace /> }, ...viewRoutes],
  },
  { path: '*', element: <BrokenPage lost /> },
]);

const AGAIN_MS = 3000;

/** What could not be fetched is asked for again at an even pace, except what is not there. */
const askAgain: NonNullable<SWRConfiguration<unknown, Error>['onErrorRetry']> = (error, _key, _config, revalidate, { retryCount }) => {
  if (error instanceof RequestError && error.status === 404) return;
  setTimeout(() => void revalidate({ retryCount }), AGAIN_MS);
};

export function App(): React.JSX.Element {
  const { theme } = useTheme();
  return (
    <SWRConfig value={{ fetcher: fetchJson, onErrorRetry: askAgain }}>
      <Tooltip.Provider delayDuration={350}>
        <RouterProvider router={router} />
        <Toaster
          theme={theme}
          position="bottom-left"
          offset={16}
          style={{ fontFamily: 'var(--font-sans)' }}
          toastOptions={{ style: { fontFamily: 'inherit' } }}
        />
      </Tooltip.Provider>
    </SWRConfig>
  );
}
