import { createBrowserRouter, Navigate, useRouteError } from 'react-router';
import { FloorPage } from '../features/floor/FloorPage.tsx';
import { Button } from '../ui/Button.tsx';
import { Shell } from './Shell.tsx';

function Broken() {
  const error = useRouteError();
  const away = error instanceof Error && /dynamically imported|Failed to fetch/i.test(error.message);
  return (
    <main className="p-8 max-w-xl">
      <h1 className="text-title font-semibold">{away ? 'This page could not be fetched' : 'This page broke'}</h1>
      <p className="my-3">
        {away
          ? 'The server cannot be reached just now. What you typed is kept on this device.'
          : 'Something on this page went wrong. What you typed is kept on this device; reload to go on.'}
      </p>
      <Button look="main" onClick={() => location.reload()}>
        Reload
      </Button>
    </main>
  );
}

export const router = createBrowserRouter([
  {
    path: '/wall/:secret',
    errorElement: <Broken />,
    lazy: async () => ({ Component: (await import('../features/oven/WallPage.tsx')).WallPage }),
  },
  {
    path: '/',
    element: <Shell />,
    errorElement: <Broken />,
    children: [
      { index: true, element: <FloorPage /> },
      {
        path: 'take-in',
        lazy: async () => ({ Component: (await import('../features/intake/IntakePage.tsx')).IntakePage }),
      },
      { path: 'shop', lazy: async () => ({ Component: (await import('../features/shop/ShopPage.tsx')).ShopPage }) },
      {
        path: 'stock',
        lazy: async () => ({ Component: (await import('../features/stock/StockPage.tsx')).StockPage }),
      },
      {
        path: 'ovens',
        lazy: async () => ({ Component: (await import('../features/oven/OvensPage.tsx')).OvensPage }),
      },
      {
        path: 'instruments',
        lazy: async () => ({
          Component: (await import('../features/instrument/InstrumentsPage.tsx')).InstrumentsPage,
        }),
      },
      {
        path: 'bench',
        lazy: async () => ({ Component: (await import('../features/evaluate/InARowPage.tsx')).InARowPage }),
      },
      {
        path: 'yield',
        lazy: async () => ({ Component: (await import('../features/evaluate/YieldPage.tsx')).YieldPage }),
      },
      {
        path: 'archive',
        lazy: async () => ({ Component: (await import('../features/archive/ArchivePage.tsx')).ArchivePage }),
      },
      {
        path: 'jobs/:number',
        lazy: async () => ({ Component: (await import('../features/motor/MotorPage.tsx')).MotorPage }),
      },
      {
        path: 'jobs/:number/step/:code',
        lazy: async () => ({ Component: (await import('../features/process/StepPage.tsx')).StepPage }),
      },
      {
        path: 'jobs/:number/load',
        lazy: async () => ({ Component: (await import('../features/load/LoadBenchPage.tsx')).LoadBenchPage }),
      },
      {
        path: 'jobs/:number/edit',
        lazy: async () => ({ Component: (await import('../features/intake/IntakePage.tsx')).IntakePage }),
      },
      {
        path: 'jobs/:number/:view',
        lazy: async () => ({ Component: (await import('../features/motor/MotorPage.tsx')).MotorPage }),
      },
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);
