import { MutationCache, QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router'
import { ProblemError } from './lib/api'
import { router } from './routes'
import './styles.css'

const client: QueryClient = new QueryClient({
  // The page that made a change sees it at once; others hear of it by the change stream.
  mutationCache: new MutationCache({ onSuccess: () => client.invalidateQueries() }),
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      retry: (count, error) => count < 2 && !(error instanceof ProblemError),
    },
  },
})

const root = document.getElementById('root')
if (!root) throw new Error('index.html has no element #root')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
)
