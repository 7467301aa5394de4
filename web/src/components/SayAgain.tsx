import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { answer, api } from '../lib/api'
import { onSayAgain } from '../lib/sayAgain'
import { Complaint } from './Page'

/** Asks for the passphrase again before tokens, an import or an export. */
export function SayAgain() {
  const client = useQueryClient()
  const [wanted, setWanted] = useState<(given: boolean) => void>()
  const [passphrase, setPassphrase] = useState('')
  useEffect(() => onSayAgain(() => new Promise((resolve) => setWanted(() => resolve))), [])
  const end = (given: boolean) => {
    wanted?.(given)
    setWanted(undefined)
    setPassphrase('')
  }
  const say = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/door/confirmation', { body: { passphrase } })),
    onSuccess: (d) => {
      client.setQueryData(['door'], d)
      end(true)
    },
  })
  return (
    <Dialog.Root open={wanted !== undefined} onOpenChange={(open) => !open && end(false)}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="sheet fixed top-[15vh] left-1/2 z-50 grid w-[min(26rem,94vw)] -translate-x-1/2 gap-3"
        >
          <Dialog.Title>The passphrase, once more</Dialog.Title>
          <form
            className="grid gap-3"
            onSubmit={(e) => {
              e.preventDefault()
              say.mutate()
            }}
          >
            <p>Tokens, and the whole record in or out, need it again. It holds for ten minutes.</p>
            <label className="text-sm font-semibold">
              Passphrase
              <input
                type="password"
                autoComplete="current-password"
                className="input font-normal"
                value={passphrase}
                onChange={(e) => setPassphrase(e.target.value)}
              />
            </label>
            {say.isError && <Complaint>{say.error.message}</Complaint>}
            <div className="flex flex-wrap gap-2">
              <button className="button button-main" disabled={say.isPending || passphrase === ''}>
                Go on
              </button>
              <Dialog.Close className="button">Leave it</Dialog.Close>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
