/** Ends a sentence that may have been ended by whoever wrote it. @example ended('Seen on site.') // 'Seen on site.' */
export const ended = (text: string): string => (/[.!?…]\s*$/.test(text) ? text.trimEnd() : `${text}.`)

/** So many of something. @example counted(1, 'reading') // '1 reading' */
export const counted = (n: number, one: string, more = `${one}s`): string => `${n} ${n === 1 ? one : more}`

/**
 * What was recorded and what came of it as one sentence: the figure one ends with is not begun with again by the other.
 *
 * @example withOutcome('Sand cone: 1965 kg/m³ at 5.6 %, 92.9 %', '92.9 % of maximum, at least 95 %') // 'Sand cone: 1965 kg/m³ at 5.6 %, 92.9 % of maximum, at least 95 %'
 */
export function withOutcome(line: string, outcome: string): string {
  const [figure] = /^[−-]?\d[\d.,]*(?: [^\s,;]+)?/.exec(outcome) ?? []
  // The end of a longer number is another number: 92.9 % does not end with 2.9 %.
  const same = figure !== undefined && line.endsWith(figure) && !/[\d.,−-]$/.test(line.slice(0, -figure.length))
  return same ? `${line}${outcome.slice(figure.length)}` : `${line}, ${outcome}`
}
