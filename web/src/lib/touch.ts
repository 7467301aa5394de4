import type { QueryClient } from '@tanstack/react-query'

/** What a change of a kind of entry may alter: the first words of the keys of queries. */
const touches: Record<string, readonly string[]> = {
  settings: [
    'settings',
    'calendar',
    'fill',
    'plates',
    'comparison',
    'findings',
    'readers',
    'money',
    'texts',
    'publications',
    'write-up',
    'visible detail',
  ],
  references: [
    'references',
    'set-ups',
    'comparison',
    'findings',
    'readers',
    'money',
    'texts',
    'publications',
    'write-up',
  ],
  photographs: [
    'photographs',
    'plates to read',
    'runs',
    'references',
    'comparison',
    'findings',
    'readers',
    'money',
    'texts',
    'publications',
    'write-up',
  ],
  instruments: [
    'instruments',
    'studies',
    'reading lines',
    'runs',
    'references',
    'comparison',
    'findings',
    'readers',
    'texts',
    'publications',
    'write-up',
  ],
  'stress-series': [
    'stress',
    'stress draft',
    'runs',
    'comparison',
    'findings',
    'readers',
    'money',
    'texts',
    'publications',
    'write-up',
  ],
  'gauge-studies': [
    'studies',
    'instruments',
    'comparison',
    'findings',
    'readers',
    'money',
    'texts',
    'publications',
    'write-up',
  ],
  reviews: [
    'reviews',
    'set-ups',
    'matrix',
    'claims',
    'disclosure',
    'left-out',
    'review-plan',
    'panels',
    'panel choices',
    'findings',
    'readers',
    'money',
    'deciding',
    'comparison',
    'plates',
    'calendar',
    'profiles',
    'bench',
    'texts',
    'publications',
    'write-up',
  ],
  'follow-ups': ['follow-ups', 'bench', 'write-up'],
  findings: ['findings', 'readers', 'texts', 'publications', 'write-up'],
  claims: ['claims', 'readers', 'texts', 'publications', 'write-up'],
  readers: ['readers', 'texts', 'publications', 'write-up'],
  equipment: ['money', 'readers', 'texts', 'publications', 'write-up'],
  publications: ['publications'],
  interests: ['interests', 'disclosure', 'findings', 'texts', 'publications', 'write-up'],
  panels: ['panels', 'comparison', 'findings', 'readers', 'money', 'texts', 'publications', 'write-up', 'bench'],
  ballots: [
    'panels',
    'ballot',
    'comparison',
    'findings',
    'readers',
    'money',
    'texts',
    'publications',
    'write-up',
    'bench',
  ],
  waste: ['waste'],
  'sliced-files': ['sliced', 'texts', 'publications', 'write-up'],
  reminders: ['upkeep', 'bench'],
  'stand-ins': ['stand-ins', 'devices'],
  devices: ['devices', 'stand-ins'],
  bottles: ['bottles', 'bottle-cards', 'runs', 'upkeep', 'bench', 'plates', 'comparison', 'findings'],
  baths: ['upkeep', 'waste', 'runs', 'bench'],
}

/** Queries that no change of the record alters: they compute from what was typed, or never change. */
const untouched = [
  'door',
  'symptoms',
  'factors',
  'pitch',
  'price',
  'layers',
  'coupon',
  'prediction',
  'stress kinds',
  'form kinds',
]

/** Has what a page shows read anew where a change of these kinds of entry may have altered it. */
export function refresh(client: QueryClient, changed: readonly string[] | null) {
  const kinds = changed ?? [] // an answer that changed nothing names no kind
  const predicate = (q: { queryKey: readonly unknown[] }) => {
    const root = String(q.queryKey[0])
    // Whatever changed may stand in a history.
    if (root === 'history') return true
    return !untouched.includes(root) && kinds.some((k) => touches[k]?.includes(root) ?? true)
  }
  void client.invalidateQueries({ predicate })
}

/** The kind of entry that an address of the API changes. */
export const kindOf = (url: string) => new URL(url, 'http://here').pathname.split('/')[3] ?? ''
