import { CircleHelp } from 'lucide-react'
import { Link } from 'react-router'

/** Leads to how a figure is computed. */
export function How({ figure, of }: { figure: string; of: string }) {
  return (
    <Link
      to={`/help/${figure}`}
      className="no-print -my-2 inline-flex min-h-(--tap) items-center gap-1 text-sm font-normal whitespace-nowrap text-act underline"
    >
      <CircleHelp size={16} aria-hidden /> How is this computed?<span className="sr-only"> {of}</span>
    </Link>
  )
}
