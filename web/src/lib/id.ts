/**
 * An id that no other has, of 128 bits. Browsers give `crypto.randomUUID` only to pages that came over a trusted
 * connection; a phone that reaches the bench by its address in the room's network has none.
 */
export function newID(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  return Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('')
}
