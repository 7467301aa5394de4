import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, day } from '../../lib/format'

type Opened = Schemas['Opened']

/** Reviews of others, opened beside this record: computed anew from what lies in their bundles, and held against what they say. */
export default function BundlesPage() {
  const client = useQueryClient()
  const list = useQuery({ queryKey: ['bundles'], queryFn: () => answer(api.GET('/api/v1/bundles')) })
  const open = useMutation({
    mutationFn: (file: File) =>
      answer(
        api.POST('/api/v1/bundles', {
          body: file as unknown as string,
          bodySerializer: (body) => body as unknown as File,
          headers: { 'Content-Type': 'application/zip' },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['bundles'] }),
  })
  return (
    <Page
      title="Open a bundle"
      about="A review of somebody else, or an old one of yours, with the record behind it. Your own record is not touched."
    >
      <section className="sheet grid justify-items-start gap-3">
        <label className="text-sm font-semibold">
          A bundle (zip)
          <input
            type="file"
            accept="application/zip,.zip"
            className="input py-2 font-normal"
            disabled={open.isPending}
            onChange={(e) => {
              const file = e.target.files?.[0]
              if (file) open.mutate(file)
              e.target.value = ''
            }}
          />
        </label>
        <p role="status">{open.isPending && 'Every figure is being computed anew…'}</p>
        {open.isError && <Complaint>Nothing was opened: {open.error.message}</Complaint>}
      </section>
      <Ready of={list}>
        {(all) =>
          all.length === 0 ? (
            <Empty title="No bundle is open">Each closes when the program ends, or when you close it.</Empty>
          ) : (
            <ul className="grid gap-4">
              {all.map((o) => (
                <Bundle key={o.id} o={o} />
              ))}
            </ul>
          )
        }
      </Ready>
    </Page>
  )
}

function Bundle({ o }: { o: Opened }) {
  const client = useQueryClient()
  const close = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/bundles/{id}/closing', { params: { path: { id: o.id } } })),
    onSuccess: (next) => client.setQueryData(['bundles'], next),
  })
  return (
    <li className="sheet grid gap-3" aria-label={o.question}>
      <h2 className="wrap-anywhere">{o.question}</h2>
      <p className="text-soft">
        {o.code}, packed on {day(o.made_ms)}: {counted(o.files, 'file')}, {counted(o.figures, 'figure')}.
      </p>
      <p>
        <strong>
          {o.differ.length === 0
            ? 'Computed anew, every figure comes out as it was packed.'
            : `Computed anew, ${counted(o.differ.length, 'figure')} come out otherwise.`}
        </strong>{' '}
        {o.same_text ? 'So does every word of the text.' : 'The text differs from the one that was packed.'}
      </p>
      {o.differ.length > 0 && (
        <ul aria-label="Figures that differ">
          {o.differ.map((c) => (
            <li key={c.name} className="border-t border-line py-1 wrap-anywhere">
              {c.name}: said <span className="num">{c.was}</span>,{' '}
              {c.is === '' ? 'not known from the record' : 'computed '}
              <span className="num">{c.is}</span>
            </li>
          ))}
        </ul>
      )}
      {o.damaged.length > 0 && (
        <Complaint>Not as they were packed: {o.damaged.join(', ')}. What they say cannot be relied on.</Complaint>
      )}
      <div className="flex flex-wrap gap-2">
        {o.address !== '' && (
          <>
            <a
              className="button button-main"
              href={`${o.address}/verdict/${o.review_id}`}
              target="_blank"
              rel="noreferrer"
            >
              Look at its record
            </a>
            <a
              className="button"
              href={`${o.address}/api/v1/reviews/${o.review_id}/write-up.html?show=true`}
              target="_blank"
              rel="noreferrer"
            >
              See its page
            </a>
          </>
        )}
        <button className="button" disabled={close.isPending} onClick={() => close.mutate()}>
          Close it
        </button>
      </div>
      {close.isError && <Complaint>{close.error.message}</Complaint>}
    </li>
  )
}
