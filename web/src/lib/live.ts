import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'

/** Reads anew whatever a page shows when the record changes, here or in another window. */
export function useLiveRecord() {
  const client = useQueryClient()
  useEffect(() => {
    const stream = new EventSource('/api/v1/events')
    stream.addEventListener('change', () => void client.invalidateQueries())
    return () => stream.close()
  }, [client])
}
