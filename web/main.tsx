import '@fontsource-variable/instrument-sans';
import '@fontsource/instrument-serif';
import { QueryClientProvider } from '@tanstack/react-query';
import { Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import {
  createBrowserRouter,
  Outlet,
  RouterProvider,
  useLocation,
  useNavigate,
  useRouteError,
  useHref,
  type NavigateOptions,
} from 'react-router';
import { RouterProvider as AriaRouter } from 'react-aria-components';
import { createQueryClient } from './app/queries';
import { GlobalStyle } from './app/theme';
import './app/wall';
import { ImportSlip } from './import/ImportSlip';
import { benchAhead, screens, screensAhead } from './screens';
import { AwayBand } from './ui/away';
import { useContextMenus } from './ui/context-menus';
import { useTour } from './app/tour';
import { lazily } from './ui/lazily';
import { Boundary, Failed } from './ui/boundary';
import { Notices } from './ui/notices';
import { Wait } from './ui/wait';
import { WordTold } from './ui/word-told';

declare module 'react-aria-components' {
  interface RouterConfig {
    routerOptions: NavigateOptions;
  }
}

/** Few take it, and those once. */
const Tour = lazily(async () => (await import('./tour/Tour')).Tour);

function Room() {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const isTouring = useTour(tour => tour.page !== null);
  useContextMenus();
  return (
    <AriaRouter navigate={(to, options) => void navigate(to, options)} useHref={useHref}>
      <GlobalStyle />
      <Boundary what="This screen" resetBy={pathname}>
        <Suspense fallback={<Wait />}>
          <Outlet />
        </Suspense>
      </Boundary>
      <ImportSlip />
      <Notices />
      <AwayBand />
      {isTouring ? (
        <Suspense fallback={null}>
          <Tour />
        </Suspense>
      ) : null}
      <WordTold />
    </AriaRouter>
  );
}

/** Where the application itself fails, or a screen of it cannot be loaded. */
function Fallen() {
  const thrown = useRouteError();
  const error = thrown instanceof Error ? thrown : new Error(String(thrown));
  return (
    <>
      <GlobalStyle />
      <Failed what="This screen" error={error} again={() => location.reload()} />
    </>
  );
}

const client = createQueryClient();
const router = createBrowserRouter([
  {
    element: <Room />,
    errorElement: <Fallen />,
    children: [
      { path: '/', element: <screens.Shelf /> },
      { path: '/put-aside', element: <screens.PutAside /> },
      { path: '/without-screens', element: <screens.ApiPage /> },
      { path: '/series/:seriesId', element: <screens.Sheet /> },
      { path: '/series/:seriesId/send-out', element: <screens.SendOut /> },
      {
        path: '/photographs/:photographId',
        element: <screens.Bench />,
        loader: ({ params }) => {
          benchAhead(client, params.photographId!);
          return null;
        },
      },
      { path: '*', element: <Wait problem="There is nothing at this address." /> },
    ],
  },
]);

createRoot(document.getElementById('root')!).render(
  <QueryClientProvider client={client}>
    <RouterProvider router={router} />
  </QueryClientProvider>,
);
screensAhead();
