import { useParams } from 'react-router'
import { Outlook } from '../../components/Outlook'
import { Empty, Page, Ready } from '../../components/Page'
import { Prediction } from '../../components/Prediction'
import { useMachines } from '../../lib/queries'
import { Knots } from './Knots'
import { MachineForm } from './MachineForm'

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
            <MachineForm
              key={card ? `${card.machine.id}-${card.machine.version}` : 'new'}
              machine={card?.machine}
              others={list.map((m) => m.machine)}
            />
            {card && (
              <>
                <Knots machineID={card.machine.id ?? ''} />
                <Outlook machines={[card.machine.id ?? '']} />
                <Prediction machines={[{ id: card.machine.id ?? '', name: card.machine.name }]} />
              </>
            )}
          </Page>
        )
      }}
    </Ready>
  )
}
