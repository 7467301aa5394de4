/** A reading that a caliper, scale or meter sent in. It comes by the change stream, which the API's document does not hold. */
export interface SentReading {
  name: string
  value: number
  unit: string
}

/** Units as fields write them. */
const written: Record<string, string> = { c: '°C', pct: '%', mw_cm2: 'mW/cm²', db: 'dB' }
export const unitOf = (r: { unit: string }) => written[r.unit] ?? r.unit

/** Puts a reading into the field in hand, if that takes its unit; says what became of it. */
export function takeReading(r: SentReading): string {
  const told = `${r.name}: ${r.value} ${unitOf(r)}`
  const field = document.activeElement
  if (!(field instanceof HTMLInputElement) || field.dataset.unit === undefined) return `${told}. No field waits for it.`
  if (field.dataset.unit !== unitOf(r)) return `${told}. The field in hand takes ${field.dataset.unit}.`
  // React hears of a value only through the input's own setter and an input event.
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(field, String(r.value))
  field.dispatchEvent(new Event('input', { bubbles: true }))
  if (field.dataset.advance !== undefined) {
    requestAnimationFrame(() => field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true })))
  }
  return `${told}. Taken.`
}
