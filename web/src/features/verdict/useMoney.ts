import { useQuery } from '@tanstack/react-query'
import { answer, api } from '../../lib/api'

export const useMoney = (id: string) =>
  useQuery({
    queryKey: ['money', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/money', { params: { path: { id } } })),
  })
