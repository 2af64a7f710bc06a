/**
 * A text for a cell of a spreadsheet: what would begin a formula there is given as the text it is.
 *
 * @example inert('=HYPERLINK("…")') // "'=HYPERLINK("…")"
 */
export const inert = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text)

/** The same text read back. @example alive("'=1") // '=1' */
export const alive = (text: string): string => text.replace(/^'(?=[=+\-@\t\r])/, '')
