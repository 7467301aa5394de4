import { useMutation } from '@tanstack/react-query'
import { answer, api } from '../lib/api'
import { Complaint } from './Page'

type Kind =
  | 'reading'
  | 'reference_reading'
  | 'rating'
  | 'photograph'
  | 'unit_photograph'
  | 'photo_measure'
  | 'room_reading'
  | 'remark'
  | 'instrument_check'
  | 'machine_rating'
  | 'plate_survey'
  | 'light_grid'
  | 'software_step'
  | 'form_reading'
  | 'sliced_file'

/** Has an entry that was taken back count again; that it was taken back stays in its history. */
export function PutAgain({ kind, id, what }: { kind: Kind; id?: string; what: string }) {
  const put = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/taken-back/{kind}/{id}/putting-back', {
          params: { path: { kind, id: id ?? '' } },
          body: { why: '' },
        }),
      ),
  })
  return (
    <>
      <button
        type="button"
        className="button"
        disabled={put.isPending}
        aria-label={`Put ${what} back`}
        onClick={() => put.mutate()}
      >
        Put it back
      </button>
      {put.isError && <Complaint>{put.error.message}</Complaint>}
    </>
  )
}
