import { useSyncExternalStore } from 'react'

const name = 'letter-keys'
const listeners = new Set<() => void>()

/** Whether single letters act; some speak to their computer, and a cough is a letter then. */
export const lettersOn = () => localStorage.getItem(name) !== 'off'

export function setLetters(on: boolean) {
  localStorage.setItem(name, on ? 'on' : 'off')
  for (const l of listeners) l()
}

export const useLettersOn = () =>
  useSyncExternalStore((changed) => {
    listeners.add(changed)
    return () => listeners.delete(changed)
  }, lettersOn)

const takesText = 'input, textarea, select, [contenteditable="true"], [role="textbox"], [role="combobox"]'

/** Whether a key is meant for the page: no field has the focus, no dialog is open, and nothing else is held. */
export function forPage(e: KeyboardEvent): boolean {
  if (e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented || e.isComposing) return false
  const target = e.target instanceof Element ? e.target : null
  return !target?.closest(takesText) && !document.querySelector('[role="dialog"], [role="alertdialog"]')
}
