import { newID } from './id'

/** The header by which the server knows a command that it has done already. */
export const commandHeader = 'Idempotency-Key'

/** For how long after its answer the same command counts as a second press of the same key, in ms. */
const doublePress = 700

const open = new Map<string, string>()
/** Commands that were answered a moment ago. */
const past = new Set<string>()
const own = new Set<string>()

/**
 * An id for a command. The same command keeps its id until it was answered, and for a moment after: pressed twice, or
 * sent again because the answer was lost, it is done once. With another command between, it is meant anew: what was
 * ended, taken back and ended again has ended.
 */
export function commandID(signature: string): string {
  const known = open.get(signature)
  if (known) return known
  for (const other of past) open.delete(other)
  past.clear()
  const id = newID()
  open.set(signature, id)
  own.add(id)
  return id
}

/** Says that a command was answered: the next one alike is another one. */
export function answered(signature: string) {
  const id = open.get(signature)
  past.add(signature)
  setTimeout(() => {
    if (open.get(signature) !== id) return
    open.delete(signature)
    past.delete(signature)
  }, doublePress)
}

/** Whether a change was made from this page, which has read it anew already. */
export const isOwn = (id: string) => own.has(id)

/** The header that says whose turn it was: the same words for another turn are another command. It goes no further. */
export const turnHeader = 'Ojime-Turn'

/** A turn of its own for each time that a box opens: pressed twice in it is once, the same value in the next is anew. */
export const newTurn = () => ({ [turnHeader]: newID() })

/** What was asked: turn, method, address and body. A whole record is too large to be compared, and comes by hand. */
export async function signatureOf(request: Request): Promise<string> {
  const text = request.url.endsWith('/record') ? newID() : await request.clone().text()
  return `${request.headers.get(turnHeader) ?? ''} ${request.method} ${request.url} ${text}`
}
