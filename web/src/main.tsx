import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router'
import { onChange, onLeft, ProblemError } from './lib/api'
import { refresh } from './lib/touch'
import { router } from './routes'
import './styles.css'

const client = new QueryClient({
  defaultOptions: {
    // The program runs on this machine: that the browser is offline says nothing of it.
    queries: {
      networkMode: 'always',
      staleTime: 30_000,
      retry: (count, error) => count < 2 && !(error instanceof ProblemError),
    },
    mutations: { networkMode: 'always' },
  },
})
// The page that made a change sees it at once; others hear of it by the change stream.
onChange((kind) => refresh(client, [kind]))
// A session that is over shows the way in again.
onLeft(() => void client.invalidateQueries({ queryKey: ['door'], exact: true }))

const root = document.getElementById('root')
if (!root) throw new Error('index.html has no element #root')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
)
