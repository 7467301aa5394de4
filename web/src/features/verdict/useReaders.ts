import { useQuery } from '@tanstack/react-query'
import { answer, api } from '../../lib/api'

export const useReaders = (id: string) =>
  useQuery({
    queryKey: ['readers', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/readers', { params: { path: { id } } })),
  })
