import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answer, api, onLeftOut } from '../lib/api'

/** What holds for the whole record and has to be known on every page. */
export function Standing() {
  const program = useQuery({
    queryKey: ['program'],
    staleTime: Infinity,
    queryFn: () => answer(api.GET('/api/v1/program')),
  })
  const [missing, setMissing] = useState(false)
  useEffect(() => onLeftOut(() => setMissing(true)), [])
  if (!program.data?.read_only && !missing) return null
  return (
    <div className="no-print mx-auto grid max-w-6xl gap-1 px-4 pt-3 sm:px-6">
      {program.data?.read_only && (
        <p role="status" className="border-l-4 border-act bg-sheet px-3 py-2">
          This record is open to be looked at; nothing can be changed.
        </p>
      )}
      {missing && (
        <p role="status" className="border-l-4 border-bad bg-sheet px-3 py-2">
          Some numbers on record cannot be shown, so they are left out. <code className="num">ojime check</code> names
          their entries and how to mend them.
        </p>
      )}
    </div>
  )
}
