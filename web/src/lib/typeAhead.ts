// What is typed while a value is being kept belongs to the box that waits next. Keys are held until that box is there,
// then poured into it; where the value is refused they are dropped, since the refusal wants an answer first.

const held: string[] = []
let holding = false

window.addEventListener(
  'keydown',
  (e) => {
    // Only what is typed into a box is held: an answer that is long in coming stops nothing else.
    if (!holding || !e.isTrusted || !(e.target instanceof HTMLInputElement)) return
    if (e.ctrlKey || e.metaKey || e.altKey) return
    if (e.key.length > 1 && e.key !== 'Enter' && e.key !== 'Backspace') return
    held.push(e.key)
    e.preventDefault()
    e.stopImmediatePropagation()
  },
  true,
)

/** Holds the keys from now on: a value is on its way. */
export function holdKeys() {
  holding = true
}

/** Pours what was held into the box that has the focus then. */
export function pourKeys() {
  holding = false
  // The next box takes the focus when the page has been drawn anew.
  requestAnimationFrame(() => setTimeout(pour))
}

/** Drops what was held: the value was refused. */
export function dropKeys() {
  holding = false
  held.length = 0
}

function pour() {
  const key = held[0]
  if (holding || key === undefined) return
  held.shift()
  const box = document.activeElement
  if (!(box instanceof HTMLInputElement)) return dropKeys()
  if (key === 'Enter') {
    const asked = box.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
    if (asked) box.form?.requestSubmit()
  } else type(box, key === 'Backspace' ? box.value.slice(0, -1) : box.value + key)
  setTimeout(pour) // one by one: each key sees what the one before it did
}

/** Sets the value as typing does, so that whoever listens to the box hears of it. */
function type(box: HTMLInputElement, value: string) {
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(box, value)
  box.dispatchEvent(new Event('input', { bubbles: true }))
}
