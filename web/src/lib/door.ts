import { useQuery } from '@tanstack/react-query'
import { answer, api } from './api'
import { sayAgain } from './sayAgain'

/** How the door stands for this page: whether a passphrase is needed, and as what it is in. */
export const useDoor = () =>
  useQuery({ queryKey: ['door'], staleTime: 60_000, queryFn: () => answer(api.GET('/api/v1/door')) })

/** Whether the passphrase was entered a short while ago, or is now that it is asked for. */
export const confirmed = async () => (await answer(api.GET('/api/v1/door'))).confirmed || sayAgain()
