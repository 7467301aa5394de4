import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../lib/api'
import { useUpload } from '../../lib/upload'

/** A file of several, with what was found in it or what is wrong with it. */
interface Looked {
  file: File
  name: string
  keep: boolean
  preview?: Schemas['MeshPreview']
  wrong?: string
  kept?: Schemas['PieceCard']
}

const nameOf = (file: File) => file.name.replace(/\.(stl|3mf|obj)$/i, '')

/** Several mesh files: each is looked at in its turn, those on record are recognised, and all are kept in one go. */
export function useSeveral() {
  const [list, setList] = useState<Looked[]>([])
  // One kind for all: what is looked at on it is looked at on each.
  const [kind, setKind] = useState('')
  const inspecting = useUpload<Schemas['MeshPreview']>('/api/v1/meshes/inspect')
  const keeping = useUpload<Schemas['PieceCard']>('/api/v1/pieces')
  const set = (file: File, now: Partial<Looked>) =>
    setList((before) => before.map((l) => (l.file === file ? { ...l, ...now } : l)))
  const look = useMutation({
    mutationFn: async (files: File[]) => {
      setList(files.map((file) => ({ file, name: nameOf(file), keep: true })))
      for (const file of files) {
        const data = new FormData()
        data.append('file', file)
        try {
          const preview = await inspecting.send(data)
          set(file, { preview, keep: preview.known === '' })
        } catch (e) {
          set(file, { wrong: e instanceof Error ? e.message : String(e), keep: false })
        }
      }
    },
  })
  const chosen = list.filter((l) => l.preview && l.keep && !l.kept)
  const keep = useMutation({
    mutationFn: async () => {
      for (const l of chosen) {
        const data = new FormData()
        data.append('file', l.file)
        data.append('name', l.name)
        data.append('revision', '1')
        data.append('kind', kind)
        set(l.file, { kept: await keeping.send(data) })
      }
    },
  })
  return { list, set, look, keep, chosen, inspecting, keeping, kind, setKind, clear: () => setList([]) }
}
