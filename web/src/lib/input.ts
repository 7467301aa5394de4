/**
 * What a person typed, as the API takes it. Commas are decimal points; blank
 * is null. What is no number goes to the server as it is, whose answer names
 * the field.
 */
export function n(typed: string | undefined): number {
  const text = (typed ?? '').trim().replace(',', '.')
  if (text === '') return null as unknown as number
  const v = Number(text)
  return Number.isFinite(v) ? v : (text as unknown as number)
}

export const orNull = (typed: string | undefined) => ((typed ?? '').trim() === '' ? null : (typed ?? '').trim())

/** The other way round: a value of the record as the text of a field. */
export const t = (v: number | string | null | undefined) => (v === null || v === undefined ? '' : String(v))
