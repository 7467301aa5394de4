import { answer, api, type Schemas } from '../lib/api'
import { TakeBack } from './TakeBack'
import type { ReactNode } from 'react'

/** One price as it was asked, with what it is for now; it can be taken back. */
export function AskedPrice({ of, now, children }: { of: Schemas['PriceShown']; now: string; children?: ReactNode }) {
  const back = of.price.taken_back_ms != null
  return (
    <li className="flex flex-wrap items-center gap-3">
      <span className={`min-w-0 wrap-anywhere ${back ? 'text-soft line-through' : ''} ${now ? 'font-semibold' : ''}`}>
        {of.says}
        {now && ` (${now})`}
      </span>
      {!back && children}
      {!back && (
        <TakeBack
          what={of.says}
          take={(why) =>
            answer(
              api.POST('/api/v1/prices/{id}/taking-back', {
                params: { path: { id: of.price.id ?? '' } },
                body: { why },
              }),
            )
          }
        />
      )}
    </li>
  )
}
