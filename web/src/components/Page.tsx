import type { UseQueryResult } from '@tanstack/react-query'
import { useEffect, type ReactNode } from 'react'

/** A view: its name in the title of the window, a heading and what can be done. */
export function Page({
  title,
  about,
  actions,
  wide,
  children,
}: {
  title: string
  about?: ReactNode
  actions?: ReactNode
  /** A page of wide tables takes the width that there is. */
  wide?: boolean
  children: ReactNode
}) {
  useEffect(() => {
    document.title = `${title} · Ojime`
  }, [title])
  return (
    <div className={`mx-auto px-4 py-5 sm:px-6 ${wide ? 'max-w-[120rem]' : 'max-w-6xl'}`}>
      <header className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <div className="min-w-0">
          <h1>{title}</h1>
          {about && <p className="text-soft">{about}</p>}
        </div>
        {actions && <div className="no-print flex flex-wrap gap-2">{actions}</div>}
      </header>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4">{children}</div>
    </div>
  )
}

export function Complaint({ children }: { children: ReactNode }) {
  return (
    <p role="alert" className="border-l-4 border-bad bg-sheet px-3 py-2 font-semibold text-bad">
      {children}
    </p>
  )
}

/** Loading and error states of what a view needs, so that each is said in words. */
export function Ready<T>({ of, children }: { of: UseQueryResult<T>; children: (data: T) => ReactNode }) {
  if (of.isError) {
    return (
      <div className="grid justify-items-start gap-2">
        <Complaint>This could not be loaded: {of.error.message}</Complaint>
        <button className="button" onClick={() => void of.refetch()}>
          Try again
        </button>
      </div>
    )
  }
  if (of.data === undefined) return <Working />
  return <>{children(of.data)}</>
}

/** What takes longer than a moment shows that it goes on; leaving the page ends it. */
function Working() {
  return (
    <label className="grid max-w-80 gap-1 text-soft">
      Reading the record…
      <progress className="h-2 w-full accent-(--act)" />
    </label>
  )
}

export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="sheet">
      <h2>{title}</h2>
      <div className="mt-1 grid justify-items-start gap-3 text-soft">{children}</div>
    </div>
  )
}
