import { useQuery } from '@tanstack/react-query'
import { Navigate, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { answer, api } from '../../lib/api'

/** Where the code on a label leads: to the readings of that specimen. */
export default function SpecimenPage() {
  const { code = '' } = useParams()
  const found = useQuery({
    queryKey: ['specimen', code],
    retry: false,
    queryFn: () => answer(api.GET('/api/v1/specimens/{code}', { params: { path: { code } } })),
  })
  if (found.data)
    return <Navigate replace to={`/inspect/${found.data.specimen.run_id}?specimen=${found.data.specimen.id}`} />
  return (
    <Page title={code}>
      <Ready of={found}>{() => null}</Ready>
    </Page>
  )
}
