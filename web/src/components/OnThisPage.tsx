/** A part of a long page: its id, and what it is called there. */
export interface PagePart {
  id: string
  name: string
}

/** The contents of a page that is too long to be seen at once. */
export function OnThisPage({ parts }: { parts: PagePart[] }) {
  return (
    <nav aria-label="On this page" className="no-print">
      <ul className="flex flex-wrap gap-x-4">
        {parts.map((p) => (
          <li key={p.id}>
            <a className="inline-block min-h-(--tap) content-center text-act underline" href={`#${p.id}`}>
              {p.name}
            </a>
          </li>
        ))}
      </ul>
    </nav>
  )
}
