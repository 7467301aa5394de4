/** The names of fields by which a complaint about a list, or about something that a page shows elsewhere, is shown. */
export const shownBy: Record<string, string> = { lift: 'lift1_mm', retract: 'retract1_mm' }

/** The words that a page has for a field of the server: its label, else its name without unit and underscores. */
export function labelOf(path: string): string {
  const name = path.split(/[.[]/)[0] ?? ''
  const found = document.querySelector<HTMLInputElement>(`form [name="${CSS.escape(shownBy[name] ?? name)}"]`)
  const label = found?.labels?.[0]?.firstChild?.textContent?.trim()
  return label || name.replace(/_(id|ms|mm|um|ml|s|c|g|w|pct)$/, '').replaceAll('_', ' ')
}
