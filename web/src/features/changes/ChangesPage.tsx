import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'
import { Changes } from '../../components/History'
import { Page, Ready } from '../../components/Page'
import { Safekeeping } from '../../components/Safekeeping'
import { answer, api } from '../../lib/api'

/** How many changes come at a time. */
const atATime = 100

const kinds: Record<string, string> = {
  machine: 'Machines',
  machine_event: 'Knots',
  resin: 'Resins',
  bottle: 'Bottles',
  piece: 'Pieces',
  profile: 'Settings',
  instrument: 'Instruments',
  series: 'Series',
  plate: 'Plates',
  run: 'Prints',
  specimen: 'Outcomes',
  reading: 'Readings',
  rating: 'Ratings',
  photograph: 'Photographs',
  review: 'Reviews',
  reference: 'References',
  assembly: 'Assemblies',
  bath: 'Baths',
  workroom: 'Rooms',
  checklist: 'Kinds of pieces',
  unit_file: 'Unit files',
  unit_photograph: 'Photographs of units',
  room_reading: 'Readings of rooms',
  remark: 'Remarks',
  panel: 'Blind panels',
  finding: 'Findings',
  claim: 'Claims',
  reader: 'Readers',
  price: 'Prices',
  budget: 'Budgets',
  publication: 'Versions that went out',
  follow_up: 'What reviews left open',
  interest: 'How things came',
}

/** What was changed of any entry since it was put on record. */
export default function ChangesPage() {
  const [params, setParams] = useSearchParams()
  const kind = params.get('kind') ?? ''
  const skip = Number(params.get('from') ?? 0) || 0
  const changes = useQuery({
    queryKey: ['history', 'all', kind, skip],
    placeholderData: keepPreviousData,
    queryFn: () => answer(api.GET('/api/v1/changes', { params: { query: { kind, skip } } })),
  })
  const go = (from: number) => setParams({ ...(kind && { kind }), ...(from > 0 && { from: String(from) }) })
  return (
    <Page
      title="What was changed"
      about="Every change of an entry that was on record: when, why, before and after. What was put back or undone stays here too."
    >
      <Safekeeping />
      <label className="max-w-60 text-sm font-semibold">
        Of
        <select
          className="input font-normal"
          value={kind}
          onChange={(e) => setParams(e.target.value ? { kind: e.target.value } : {})}
        >
          <option value="">everything</option>
          {Object.entries(kinds).map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <Ready of={changes}>
        {(list) => (
          <section className="sheet grid gap-3" aria-label="Changes">
            {list.length === 0 && (
              <p>
                {skip > 0 ? 'There are no older ones.' : 'Nothing of these was changed since it was put on record.'}
              </p>
            )}
            <Changes list={list} several />
            <div className="flex gap-2">
              {skip > 0 && (
                <button className="button" onClick={() => go(Math.max(0, skip - atATime))}>
                  Newer
                </button>
              )}
              {list.length === atATime && (
                <button className="button" onClick={() => go(skip + atATime)}>
                  Older
                </button>
              )}
            </div>
          </section>
        )}
      </Ready>
    </Page>
  )
}
