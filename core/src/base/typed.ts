/**
 * A number or name of somebody's, without the word that is said before it anyway: people write the word with it as often as not.
 *
 * @example withoutWord('lot', 'Lot 8812') // '8812'
 */
export const withoutWord = (word: string, text: string): string => {
  const bare = text.trim().replace(new RegExp(`^${word}\\b\\.?\\s*`, 'i'), '')
  return bare === '' ? text.trim() : bare
}
