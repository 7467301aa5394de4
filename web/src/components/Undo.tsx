import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Undo2 } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, api, type Schemas } from '../lib/api'
import { moment } from '../lib/format'
import { Complaint } from './Page'

type Done = Schemas['Done']

const key = ['done-commands']

/** What was done in the last minutes, here or in another window, each to be undone. */
export function Undo() {
  const [open, setOpen] = useState(false)
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="button" title="Undo what was done in the last minutes">
        <Undo2 size={18} aria-hidden="true" /> <span className="max-sm:sr-only">Undo</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="sheet z-50 grid max-h-[70vh] w-[min(32rem,94vw)] gap-2 overflow-y-auto shadow-lg"
          aria-label="Done in the last minutes"
        >
          {open && <Recent close={() => setOpen(false)} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

function Recent({ close }: { close: () => void }) {
  const client = useQueryClient()
  const done = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/done-commands')),
    staleTime: 0,
    gcTime: 0,
  })
  const undo = useMutation({
    mutationFn: (d: Done) => answer(api.POST('/api/v1/done-commands/{id}/undoing', { params: { path: { id: d.id } } })),
    onSuccess: (list) => client.setQueryData(key, list),
  })
  const list = done.data ?? []
  return (
    <>
      <h2 className="text-base">Done in the last 15 minutes</h2>
      {done.isError && <Complaint>{done.error.message}</Complaint>}
      {done.data && list.length === 0 && (
        <p>Nothing was changed. What you enter can be undone here, to the last field, for a quarter of an hour.</p>
      )}
      {undo.isError && <Complaint>{undo.error.message}</Complaint>}
      <ul className="grid">
        {list.map((d) => (
          <li key={d.id} className="flex items-center justify-between gap-3 border-t border-line py-1">
            <span className={`min-w-0 wrap-anywhere ${d.undone_ms == null ? '' : 'text-soft'}`}>
              {d.says}
              {d.of && ': '}
              {d.of.split(', ').map((codes, i) => (
                <span key={codes} className="num">
                  {i > 0 && ', '}
                  <span className="whitespace-nowrap">{codes}</span>
                </span>
              ))}
              <span className="num block text-sm text-soft">
                {moment(d.at_ms)}
                {d.undone_ms != null && ', undone'}
                {d.reason && `, cannot be undone: ${d.reason}`}
              </span>
            </span>
            {d.undone_ms == null && !d.reason && (
              <button
                className="button shrink-0"
                disabled={undo.isPending}
                aria-label={`Undo ${d.says}${d.of && `: ${d.of}`}`}
                onClick={() => undo.mutate(d)}
              >
                Undo
              </button>
            )}
          </li>
        ))}
      </ul>
      <p className="border-t border-line pt-2 text-sm">
        <Link to="/changes" onClick={close}>
          All that was ever changed
        </Link>
        , before and after, to be put back.
      </p>
    </>
  )
}
