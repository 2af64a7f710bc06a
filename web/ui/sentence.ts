/** Ends a sentence that may have been ended by whoever wrote it. @example ended('Seen on site.') // 'Seen on site.' */
export const ended = (text: string): string => (/[.!?…]\s*$/.test(text) ? text.trimEnd() : `${text}.`)

/** So many of something. @example counted(1, 'reading') // '1 reading' */
export const counted = (n: number, one: string, more = `${one}s`): string => `${n} ${n === 1 ? one : more}`
