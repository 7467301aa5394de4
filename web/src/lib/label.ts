/** The fields by which complaints about what a page shows in parts are shown. */
export const shownBy: Record<string, string> = { lift: 'lift1_mm', retract: 'retract1_mm' }

/** The name that a form has for a field of the server, such as features.2.name for features[2].name. */
export function fieldOf(path: string): string {
  const name = path.replace(/\[(\d+)\]/g, '.$1')
  return shownBy[name] ?? name
}

/** What people call fields that no label names. */
const spoken: Record<string, string> = { arms: 'Set-ups', 'arms.item_ids': 'A copy' }

/** The words that a page has for a field of the server: its label, else its name without unit and underscores. */
export function labelOf(path: string): string {
  const found = document.querySelector<HTMLInputElement>(`form [name="${CSS.escape(fieldOf(path))}"]`)
  const label = found?.labels?.[0]?.firstChild?.textContent?.trim()
  if (label) return label
  const name =
    spoken[path.replace(/\[\d+\]/g, '')] ??
    path
      .replace(/\[\d+\]$/, '')
      .split('.')
      .pop() ??
    ''
  return name.replace(/_(id|ms|mm|um|ml|s|c|g|w|pct)$/, '').replaceAll('_', ' ')
}
