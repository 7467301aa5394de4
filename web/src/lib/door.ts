import { useQuery } from '@tanstack/react-query'
import { answer, api, ProblemError } from './api'
import { remembered } from './outbox'
import { sayAgain } from './sayAgain'

/** How the door stands for this page: whether a passphrase is needed, and as what it is in. */
export const useDoor = () =>
  useQuery({
    queryKey: ['door'],
    staleTime: 60_000,
    // While the network is away a page that the device has kept opens as it was left.
    queryFn: () =>
      remembered(
        'door',
        () => answer(api.GET('/api/v1/door')),
        (e) => !(e instanceof ProblemError),
      ),
  })

/** Whether the passphrase was entered a short while ago, or is now that it is asked for. */
export const confirmed = async () => (await answer(api.GET('/api/v1/door'))).confirmed || sayAgain()
