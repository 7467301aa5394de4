import { Dialog } from 'radix-ui'
import { useEffect } from 'react'
import { useNavigate } from 'react-router'
import { forPage, lettersOn, setLetters, useLettersOn } from '../lib/keys'

/** One key each: g and a letter opens a view, / finds, ? shows this list. */
export function Keys({
  views,
  onFind,
  shown,
  setShown,
}: {
  views: { to: string; label: string; key: string }[]
  onFind: () => void
  shown: boolean
  setShown: (shown: boolean) => void
}) {
  const letters = useLettersOn()
  const navigate = useNavigate()
  useEffect(() => {
    let afterG = false
    const press = (e: KeyboardEvent) => {
      if (!lettersOn() || !forPage(e)) return
      const view = views.find((v) => v.key === e.key)
      if (afterG && view) {
        void navigate(view.to)
        e.preventDefault()
      } else if (e.key === '?') {
        setShown(true)
      } else if (e.key === '/') {
        e.preventDefault()
        onFind()
      }
      afterG = e.key === 'g'
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [views, navigate, onFind, setShown])
  const rows: [string, string][] = [
    ['?', 'This list'],
    ['/', 'Open anything by name, or say what happened'],
    ...views.map((v): [string, string] => [`g ${v.key}`, `Go to ${v.label}`]),
    ['← → ↑ ↓', 'Walk along a cord, or to the next one'],
    ['+ −', 'On a cord: closer, and further off'],
    ['s', 'Select the bead for a comparison'],
    ['Enter', 'Open the bead; in number entry, go on to the next box'],
    [
      's p f x t n',
      'On a prepared or running print: start, pause or go on, finished, stopped (the last two pressed twice); t and n go to top-up and note',
    ],
    ['w', 'On a plate to be judged: all whole'],
    ['r', 'On a plate being laid: turn the copy in hand; arrows move it'],
  ]
  return (
    <Dialog.Root open={shown} onOpenChange={setShown}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="sheet fixed top-[5vh] left-1/2 z-50 max-h-[90vh] w-[min(34rem,94vw)] -translate-x-1/2 overflow-y-auto"
        >
          <Dialog.Title className="mb-2 text-lg font-bold">Keys</Dialog.Title>
          <label className="mb-2 flex min-h-(--tap) items-center gap-2">
            <input
              type="checkbox"
              className="size-5 accent-(--act)"
              checked={letters}
              onChange={(e) => setLetters(e.target.checked)}
            />
            <span>Single keys act (switch off where speech or a cough would press them)</span>
          </label>
          <table className="rows">
            <tbody>
              {rows.map(([key, what]) => (
                <tr key={key}>
                  <td>
                    <kbd className="num font-bold">{key}</kbd>
                  </td>
                  <td>{what}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Dialog.Close className="button mt-3">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
