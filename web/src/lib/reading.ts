/** A reading that a caliper, scale or meter sent in. It comes by the change stream, which the API's document does not hold. */
export interface SentReading {
  name: string
  kind: string
  value: number
  unit: string
  stand_in: boolean
}

/** Units as fields write them. */
const written: Record<string, string> = { c: '°C', pct: '%', mw_cm2: 'mW/cm²', db: 'dB' }
export const unitOf = (r: { unit: string }) => written[r.unit] ?? r.unit

/** These are read by the press of a button; others speak all the time. */
const byHand = ['caliper', 'scale']

/**
 * Puts a reading into the field in hand, if that takes its unit; says what became of it. What speaks all the time fills
 * an empty field only, and says nothing where none waits.
 */
export function takeReading(r: SentReading): string {
  const told = `${r.name}: ${r.value} ${unitOf(r)}`
  const field = document.activeElement
  const hand = byHand.includes(r.kind)
  const waits = field instanceof HTMLInputElement && field.dataset.unit !== undefined ? field : undefined
  if (!hand && (waits?.dataset.unit !== unitOf(r) || waits.value !== '')) return ''
  if (!waits) return `${told}. No field waits for it.`
  if (waits.dataset.unit !== unitOf(r)) return `${told}. The field in hand takes ${waits.dataset.unit}.`
  // React hears of a value only through the input's own setter and an input event.
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(waits, String(r.value))
  waits.dispatchEvent(new Event('input', { bubbles: true }))
  if (waits.dataset.advance !== undefined) {
    requestAnimationFrame(() => waits.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true })))
  }
  return `${told}. Taken.${r.stand_in ? ' It comes from a stand-in, which measures nothing.' : ''}`
}
