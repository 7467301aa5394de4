import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { percent, words } from '../../lib/format'
import { Baths } from './Baths'
import { Reminders } from './Reminders'
import { WasteSheet } from './WasteSheet'

const states = { due: 'due', soon: 'soon', fine: 'fine', unknown: 'not known' }

const sourceOf = (d: Schemas['Due']) =>
  ({ maker: "the maker's reminder", own: 'own reminder', 'stated life': 'stated life' })[d.source] ?? d.source

/** What wears, what is due and why, the baths, and where waste went. */
export default function UpkeepPage() {
  const upkeep = useQuery({ queryKey: ['upkeep'], queryFn: () => answer(api.GET('/api/v1/upkeep')) })
  return (
    <Page title="Upkeep" about="What wears and comes round again, counted from knots and prints on record.">
      <Ready of={upkeep}>
        {(u) => (
          <>
            <DueTable due={u.due} />
            <Reminders list={u.reminders} />
            <Baths list={u.baths} />
          </>
        )}
      </Ready>
      <WasteSheet />
    </Page>
  )
}

function DueTable({ due }: { due: Schemas['Due'][] }) {
  return (
    <section className="sheet grid gap-2">
      <h2>What is due</h2>
      {due.length === 0 ? (
        <p className="text-soft">
          Nothing is counted yet. State the life of film and panel with the machine in the <Link to="/kit">kit</Link>,
          or record a reminder below.
        </p>
      ) : (
        <div className="overflow-x-auto">
          <table className="rows">
            <thead>
              <tr>
                <th>State</th>
                <th>What</th>
                <th className="max-sm:hidden">Used</th>
                <th>Why</th>
                <th className="max-sm:hidden">By</th>
              </tr>
            </thead>
            <tbody>
              {due.map((d) => (
                <tr key={d.of + d.what + d.reminder_id}>
                  <td className={`font-bold ${d.state === 'due' ? 'text-bad' : ''}`}>{states[d.state]}</td>
                  <td>
                    <Link to={d.link}>{d.of}</Link>: {words(d.what)}
                  </td>
                  <td className="num whitespace-nowrap max-sm:hidden">{d.share == null ? '–' : percent(d.share)}</td>
                  <td>
                    {d.why} <span className="text-soft sm:hidden">By {sourceOf(d)}.</span>
                  </td>
                  <td className="max-sm:hidden">{sourceOf(d)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
