import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, ProblemError, type Schemas } from './api'

export type Understood = Schemas['Understood']

const pages: Record<Understood['about'], (id: string) => string> = {
  run: (id) => `/runs/${id}`,
  machine: (id) => `/kit/machines/${id}`,
  resin: (id) => `/kit/resins/${id}`,
}

/** The page of what a line is about. */
export const pageOf = (u: Understood) => pages[u.about](u.id)

/** Why a line means nothing, as a sentence about it. */
export const refusal = (e: Error) => {
  const said = e instanceof ProblemError ? e.problem.errors?.find((x) => x.location === 'text') : undefined
  return said ? `This line ${said.message}` : e.message
}

/** What a line means, asked as it is typed; nothing is kept. */
export const useMeaning = (text: string, enabled = true) =>
  useQuery({
    queryKey: ['line meaning', text],
    enabled: enabled && text.trim() !== '',
    retry: false,
    staleTime: 0,
    queryFn: ({ signal }) => answer(api.POST('/api/v1/line-meanings', { body: { text }, signal })),
  })

/** Keeps a line as it was shown. What is hard to believe is asked about once: the same line again means it. */
export function useKeepLine(kept: (line: Understood) => void) {
  const [asked, setAsked] = useState('')
  const keep = useMutation({
    mutationFn: ({ text, says }: { text: string; says: string }) =>
      answer(api.POST('/api/v1/lines', { body: { text, says, confirmed: asked === text } })),
    onSuccess: (line) => {
      setAsked('')
      kept(line)
    },
    onError: (e, { text }) =>
      setAsked(e instanceof ProblemError && e.problem.type === 'urn:ojime:questioned' ? text : ''),
  })
  return { ...keep, questioned: asked !== '' }
}
