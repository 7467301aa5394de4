import { useRef, type ReactNode } from 'react'
import { confirmed, useDoor } from '../lib/door'

/** The whole record as a file. To a network it goes out only after the passphrase was entered again. */
export function ExportRecord({ children }: { children: ReactNode }) {
  const needed = useDoor().data?.needed
  const said = useRef(false)
  return (
    <a
      className="button"
      href="/api/v1/record"
      download="ojime-record.json"
      onClick={(e) => {
        if (!needed) return
        // The link is followed once the passphrase is there.
        const link = e.currentTarget
        if (said.current) {
          said.current = false
          return
        }
        e.preventDefault()
        void confirmed().then((is) => {
          if (!is) return
          said.current = true
          link.click()
        })
      }}
    >
      {children}
    </a>
  )
}
