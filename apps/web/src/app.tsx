import { Tooltip } from 'radix-ui';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { SWRConfig } from 'swr';
import { fetchJson } from './api/request.ts';
import { BrokenPage } from './interface/broken-page.tsx';
import { useTheme } from './interface/theme.ts';
import { ProjectLayout } from './project/project-layout.tsx';
import { View } from './project/views.tsx';
import { ProjectsPage } from './projects/projects-page.tsx';

const router = createBrowserRouter([
  { path: '/', element: <ProjectsPage />, errorElement: <BrokenPage /> },
  {
    path: '/projects/:projectId',
    element: <ProjectLayout />,
    errorElement: <BrokenPage />,
    children: [
      { index: true, element: <Navigate to="song" replace /> },
      { path: 'song', element: <View name="song" /> },
      { path: 'footage', element: <View name="footage" /> },
      { path: 'score', element: <View name="score" /> },
      { path: 'finish', element: <View name="finish" /> },
      { path: 'export', element: <View name="export" /> },
    ],
  },
  { path: '*', element: <BrokenPage lost /> },
]);

export function App(): React.JSX.Element {
  const { theme } = useTheme();
  return (
    <SWRConfig value={{ fetcher: fetchJson, shouldRetryOnError: true, errorRetryInterval: 3000 }}>
      <Tooltip.Provider delayDuration={350}>
        <RouterProvider router={router} />
        <Toaster
          theme={theme}
          position="bottom-right"
          offset={{ bottom: 130, right: 16 }}
          toastOptions={{ style: { fontFamily: 'inherit' } }}
        />
      </Tooltip.Provider>
    </SWRConfig>
  );
}
