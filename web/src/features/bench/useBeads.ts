import { useQueries } from '@tanstack/react-query'
import { useMemo } from 'react'
import { answer, api } from '../../lib/api'
import type { BeadRow } from './cordLayout'

/** Beads are read in pieces of this length, in ms, so that years are never read at once. */
const chunk = 32 * 86_400_000

/** The beads of all cords from one instant to another, by machine. */
export function useBeads(from: number, to: number) {
  const first = Math.floor(from / chunk)
  const last = Math.floor(to / chunk)
  const numbers = Array.from({ length: last - first + 1 }, (_, i) => first + i)
  return useQueries({
    queries: numbers.map((n) => ({
      queryKey: ['beads', n],
      queryFn: () =>
        answer(api.GET('/api/v1/beads', { params: { query: { from_ms: n * chunk, to_ms: (n + 1) * chunk } } })),
    })),
    combine,
  })
}

function combine(results: { data?: unknown; isPending: boolean }[]) {
  return { rows: results.map((r) => r.data as BeadRow[] | undefined), pending: results.some((r) => r.isPending) }
}

/** Rows by machine, in the order of time. */
export function useByMachine(rows: (BeadRow[] | undefined)[]) {
  return useMemo(() => {
    const by = new Map<string, BeadRow[]>()
    for (const bead of rows.flatMap((r) => r ?? [])) {
      const list = by.get(bead.machine_id)
      if (list) list.push(bead)
      else by.set(bead.machine_id, [bead])
    }
    return by
  }, [rows])
}
