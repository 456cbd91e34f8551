import { createBrowserRouter, redirect } from 'react-router'
import { JobShell, PageProblem } from './shell'

/** The stages are the routes; each loads when it is opened. */
export const router = createBrowserRouter([
  {
    path: '/',
    lazy: () => import('./features/start').then(({ StartPage }) => ({ Component: StartPage })),
    ErrorBoundary: PageProblem,
    HydrateFallback: Blank,
  },
  {
    path: '/jobs/:jobId',
    Component: JobShell,
    ErrorBoundary: PageProblem,
    HydrateFallback: Blank,
    children: [
      { index: true, loader: () => redirect('line-up') },
      {
        path: 'line-up',
        lazy: () => import('./features/lineUp').then(({ LineUpPage }) => ({ Component: LineUpPage })),
      },
      {
        path: 'first-contact',
        lazy: () => import('./features/firstContact').then(({ FirstContactPage }) => ({ Component: FirstContactPage })),
      },
      {
        path: 'terms/:handshakeId?',
        lazy: () => import('./features/terms').then(({ TermsPage }) => ({ Component: TermsPage })),
      },
      {
        path: 'data-path/:handshakeId?',
        lazy: () => import('./features/dataPath').then(({ DataPathPage }) => ({ Component: DataPathPage })),
      },
      {
        path: 'proof/:handshakeId?',
        lazy: () => import('./features/proof').then(({ ProofPage }) => ({ Component: ProofPage })),
      },
      {
        path: 'hand-over',
        lazy: () => import('./features/handOver').then(({ HandOverPage }) => ({ Component: HandOverPage })),
      },
      { path: 'bench', lazy: () => import('./features/bench').then(({ BenchPage }) => ({ Component: BenchPage })) },
    ],
  },
  {
    path: '/jobs/:jobId/record',
    ErrorBoundary: PageProblem,
    HydrateFallback: Blank,
    lazy: () => import('./features/handOver').then(({ RecordPage }) => ({ Component: RecordPage })),
  },
])

function Blank() {
  return null
}
