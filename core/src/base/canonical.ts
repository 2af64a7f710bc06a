/**
 * JSON text with sorted keys and no white space: the one form that is hashed and compared, since
 * schema libraries and databases are free to reorder keys.
 *
 * @example canonical({ b: 1, a: [2] }) // '{"a":[2],"b":1}'
 */
export function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map((v) => canonical(v === undefined ? null : v)).join(',')}]`
  if (value !== null && typeof value === 'object') {
    const parts: string[] = []
    for (const key of Object.keys(value).sort()) {
      const inner = (value as Record<string, unknown>)[key]
      if (inner !== undefined) parts.push(`${JSON.stringify(key)}:${canonical(inner)}`)
    }
    return `{${parts.join(',')}}`
  }
  return JSON.stringify(value)
}
