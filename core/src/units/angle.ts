import { fail, ok, type Result } from '../base/result'

/**
 * A bearing as people write it: `92.5`, `92°30'`, `92 30 15`, `N 45°30' E`, `S10W`.
 *
 * @returns degrees clockwise from north, 0 to 360
 * @example parseBearing("N 45°30' E") // 45.5
 */
export function parseBearing(input: string): Result<number> {
  const refuse = () => fail('', `"${input}" is not a bearing; write 92.5, 92°30' or N 45°30' E`)
  const t = input.trim().toUpperCase().replace(',', '.')
  const quadrant = /^([NS])\s*(.+?)\s*([EW])$/.exec(t)
  const parts = (quadrant?.[2] ?? t)
    .split(/[°º'"′″\s:]+/)
    .filter(Boolean)
    .map(Number)
  if (parts.length === 0 || parts.length > 3 || parts.some((p) => !Number.isFinite(p) || p < 0)) return refuse()
  const degrees = (parts[0] as number) + (parts[1] ?? 0) / 60 + (parts[2] ?? 0) / 3600
  if ((parts[1] ?? 0) >= 60 || (parts[2] ?? 0) >= 60) return refuse()
  if (quadrant) {
    if (degrees > 90) return refuse()
    const [ns, ew] = [quadrant[1], quadrant[3]]
    return ok(ns === 'N' ? (ew === 'E' ? degrees : (360 - degrees) % 360) : ew === 'E' ? 180 - degrees : 180 + degrees)
  }
  return degrees > 360 ? refuse() : ok(degrees % 360)
}

/** @example formatBearing(92.5) // `92°30'00"` */
export function formatBearing(degrees: number): string {
  const seconds = Math.round((((degrees % 360) + 360) % 360) * 3600)
  const two = (v: number) => String(v).padStart(2, '0')
  return `${Math.floor(seconds / 3600) % 360}°${two(Math.floor((seconds % 3600) / 60))}'${two(seconds % 60)}"`
}
