import { Link, useParams } from 'react-router'
import { HowItCameSection } from '../../components/HowItCame'
import { Page, Ready } from '../../components/Page'
import { ReferenceForm } from '../../components/ReferenceForm'
import { counted, words } from '../../lib/format'
import { useReference } from '../../lib/queries'
import { ofReference } from './inHand'
import { Readings } from './Readings'

/** A reference: what it is, and its readings, taken as those of a print are. */
export default function ReferencePage() {
  const { id = '' } = useParams()
  const sheet = useReference(id)
  return (
    <Ready of={sheet}>
      {(s) => (
        <Page
          title={`${s.reference.code}: ${s.reference.name}`}
          about={`${counted(s.reference.copies, 'copy', 'copies')} of ${s.piece.name}, ${words(s.reference.made_by)}. No print on record made it: it has no time, failures or cost.`}
          actions={
            <Link className="button" to="/kit?tab=pieces">
              All references
            </Link>
          }
        >
          <div className="sheet">
            <ReferenceForm key={s.reference.version} reference={s.reference} />
          </div>
          <Readings sheet={ofReference(s)} of="reference" />
          <HowItCameSection of="reference" id={id} />
        </Page>
      )}
    </Ready>
  )
}
