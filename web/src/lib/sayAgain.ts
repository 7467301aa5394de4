let ask: () => Promise<boolean> = () => Promise.resolve(false)

/** Says who asks for the passphrase again; the page's frame does. */
export const onSayAgain = (asks: () => Promise<boolean>) => {
  ask = asks
}

/** Asks for the passphrase again; whether it was given. Two who ask at once are asked once. */
let asking: Promise<boolean> | undefined
export function sayAgain(): Promise<boolean> {
  asking ??= ask().finally(() => {
    asking = undefined
  })
  return asking
}
