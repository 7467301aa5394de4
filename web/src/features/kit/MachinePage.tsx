import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { How } from '../../components/How'
import { HowItCameSection } from '../../components/HowItCame'
import { History } from '../../components/History'
import { ConditionFigures } from '../../components/ConditionFigures'
import { VisibleDetail } from '../../components/VisibleDetail'
import { Empty, Page, Ready } from '../../components/Page'
import { Prediction } from '../../components/Prediction'
import { answer, api } from '../../lib/api'
import { useMachines } from '../../lib/queries'
import { Knots } from './Knots'
import { LightOverPlate } from './LightOverPlate'
import { Living } from './Living'
import { Remarks } from './Remarks'
import { MachineForm } from './MachineForm'
import { Levelling } from './Levelling'
import { UnitFile } from './UnitFile'
import { UsablePlate } from './UsablePlate'

export default function MachinePage() {
  const { id } = useParams()
  const machines = useMachines()
  const isNew = id === 'new'
  return (
    <Ready of={machines}>
      {(list) => {
        const card = list.find((m) => m.machine.id === id)
        if (!isNew && !card) {
          return (
            <Page title="No such machine">
              <Empty title="This machine is not on record">It may belong to another record.</Empty>
            </Page>
          )
        }
        return (
          <Page
            title={card ? card.machine.name : 'A new machine'}
            about="What you do not know can stay empty where it says optional."
          >
            {card && <ConditionNow machineID={card.machine.id ?? ''} />}
            <MachineForm
              key={card ? `${card.machine.id}-${card.machine.version}` : 'new'}
              machine={card?.machine}
              others={list.map((m) => m.machine)}
            />
            {card && (
              <>
                <UnitFile machineID={card.machine.id ?? ''} />
                <Levelling machineID={card.machine.id ?? ''} />
                <UsablePlate machine={card.machine} />
                {card.machine.light_engine !== 'laser' && <LightOverPlate machineID={card.machine.id ?? ''} />}
                <Knots machineID={card.machine.id ?? ''} />
                <Living machineID={card.machine.id ?? ''} />
                <HowItCameSection of="machine" id={card.machine.id ?? ''} />
                <Remarks machineID={card.machine.id ?? ''} />
                <VisibleDetail machines={[card.machine.id ?? '']} />
                <History kind="machine" id={card.machine.id ?? ''} />
                <Prediction machines={[{ id: card.machine.id ?? '', name: card.machine.name }]} />
              </>
            )}
          </Page>
        )
      }}
    </Ready>
  )
}

/** What the next print on it would begin with, as the record computes it. */
function ConditionNow({ machineID }: { machineID: string }) {
  const draft = useQuery({
    queryKey: ['condition', machineID],
    queryFn: () => answer(api.GET('/api/v1/run-draft', { params: { query: { machine_id: machineID } } })),
  })
  if (!draft.data) return null
  return (
    <section className="sheet grid gap-2">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Its condition now</h2>
        <How figure="light" of="Its condition now" />
      </div>
      <ConditionFigures c={draft.data.condition} />
      <p className="text-sm text-soft">
        Computed from the knots below and from its prints; tie a knot to put it right.
      </p>
    </section>
  )
}
