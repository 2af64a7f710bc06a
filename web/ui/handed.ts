let held: File | undefined

/** Hands a chosen file on to the page that goes on with it. @example hand(file); router.push('/walls/new') */
export const hand = (file: File) => {
  held = file
}

/** The file that was handed on, once. */
export function takeHanded(): File | undefined {
  const file = held
  held = undefined
  return file
}
