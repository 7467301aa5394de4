import { useQuery } from '@tanstack/react-query'
import { answer, api } from './api'

/** The kinds of form that can be measured; they never change. */
export const useFormKinds = () =>
  useQuery({ queryKey: ['form kinds'], staleTime: Infinity, queryFn: () => answer(api.GET('/api/v1/form-kinds')) })
