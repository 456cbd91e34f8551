import { LostEdits, Tips, Toasts } from './ui'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { setNonce } from 'get-nonce'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router'
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css'
import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import { ProblemError } from './api'
import './look/index.css'
import { router } from './routes'
import { applyTheme, storedTheme } from './shell'

applyTheme(storedTheme())
setNonce(document.querySelector('meta[name=style-nonce]')?.getAttribute('content') ?? '')

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      // A refusal stays one; a server that is away is asked again.
      retry: (count, reason) => !(reason instanceof ProblemError) && count < 3,
    },
    // Changes are sent at once even when the browser believes to be offline: the server is on this laptop.
    mutations: { networkMode: 'always' },
  },
})

const root = document.getElementById('root')
if (!root) throw new Error('index.html has no #root')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <Toasts>
        <Tips>
          <RouterProvider router={router} />
          <LostEdits />
        </Tips>
      </Toasts>
    </QueryClientProvider>
  </StrictMode>,
)
