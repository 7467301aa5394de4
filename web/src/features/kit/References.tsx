import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { Ready } from '../../components/Page'
import { ReferenceForm } from '../../components/ReferenceForm'
import { counted, words } from '../../lib/format'
import { usePieces, useReferences } from '../../lib/queries'

/** What prints are held against that no print on record made: castings, bought ones, prints of others. */
export function References() {
  const references = useReferences()
  const pieces = usePieces()
  const navigate = useNavigate()
  const [adding, setAdding] = useState(false)
  return (
    <section className="grid gap-3" aria-label="References">
      <h2>References</h2>
      <Ready of={references}>
        {(list) => (
          <>
            {list.length === 0 && !adding && (
              <p className="text-soft">
                None yet. A casting, a bought piece or a print of someone else has readings too, and can be a side of a
                comparison.
              </p>
            )}
            <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
              {list.map((s) => (
                <li key={s.reference.id}>
                  <Link
                    to={`/inspect/references/${s.reference.id}`}
                    className="sheet block min-h-(--tap) wrap-anywhere hover:border-act"
                  >
                    <span className="num font-bold">{s.reference.code}</span> {s.reference.name}
                    <span className="block text-sm text-soft">
                      {counted(s.reference.copies, 'copy', 'copies')} of {s.piece.name}, {words(s.reference.made_by)};{' '}
                      {counted(s.readings.length, 'reading')}
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </>
        )}
      </Ready>
      {adding ? (
        <div className="sheet">
          <ReferenceForm
            done={(kept) => void navigate(`/inspect/references/${kept.reference.id}`)}
            leave={() => setAdding(false)}
          />
        </div>
      ) : pieces.data?.length === 0 ? (
        <p className="text-soft">It is a copy of a piece: import that piece, or make a coupon, first.</p>
      ) : (
        <button className="button justify-self-start" onClick={() => setAdding(true)}>
          Enter a reference
        </button>
      )}
    </section>
  )
}
