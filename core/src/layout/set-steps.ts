import { failAll, ok, type Problem, type Result } from '../base/result'
import { said } from '../base/said'
import { elevationAt, LENGTH_TOLERANCE, tidy } from '../geometry'
import type { BaseStepsInput, KeepOff, PadStep } from './base-steps'

/** Where a step may lie: on the half-unit grid from the first station, nearest to a place; m. @example onGrid(3.1, 0.45) // 3.15 */
export const onGrid = (station: number, unitLength: number) => tidy((Math.round(station / (unitLength / 2)) * unitLength) / 2)

/**
 * Pad steps at the stations somebody chose, instead of where they fall by themselves: every stretch lies as high as its lowest toe grade lets
 * it, so that a step moved only ever makes a stretch deeper, never shallower than the embedment asks.
 *
 * @param at - stations, ascending, m; each goes to the nearest place of the half-unit grid
 * @param keepOff - corners, openings and ends that steps stay a piece's length away from
 * @param levels - where courses are of several heights: what a top may lie above the datum, ascending, m
 * @returns steps, or which station is too near to a corner, or to another step
 * @example stepsAsSet(input, [9], []).value.steps // [{ start: 0, end: 9, elevation: 9.8 }, { start: 9, end: 15, elevation: 9.8 }]
 */
export function stepsAsSet(
  input: BaseStepsInput,
  at: readonly number[],
  keepOff: readonly KeepOff[],
  levels?: readonly number[],
): Result<{ steps: PadStep[] }> {
  const profile = input.profile.map((p) => ({ station: p.station, elevation: p.toe }))
  const end = (profile[profile.length - 1] as { station: number }).station
  const problems: Problem[] = []
  const breaks = at.map((station, i) => {
    const on = onGrid(station, input.unit.length)
    const near = keepOff.find((k) => Math.abs(k.station - on) > LENGTH_TOLERANCE && Math.abs(k.station - on) < k.within - LENGTH_TOLERANCE)
    if (near)
      problems.push({
        field: `padSteps[${i}]`,
        message: `${said.given(on)} lies ${said.length(Math.abs(near.station - on), 2)} from a corner, an opening or an end; a step stays ${said.length(near.within, 2)} away from it`,
      })
    return on
  })
  const edges = [0, ...breaks, end]
  for (let i = 1; i < edges.length; i++) {
    const [a, b] = [edges[i - 1] as number, edges[i] as number]
    if (at.length > 0 && b - a < input.minRun - LENGTH_TOLERANCE)
      problems.push({
        field: `padSteps[${Math.min(i - 1, at.length - 1)}]`,
        message: `leaves a step of ${said.length(Math.max(0, b - a), 2)}; the shortest is ${said.given(input.minRun)}`,
      })
  }
  if (problems.length > 0) return failAll(problems)
  const steps: PadStep[] = []
  for (let i = 1; i < edges.length; i++) {
    const [start, stop] = [edges[i - 1] as number, edges[i] as number]
    const inside = profile.filter((p) => p.station > start && p.station < stop).map((p) => p.elevation)
    const toe = Math.min(elevationAt(profile, start), elevationAt(profile, stop), ...inside)
    const room = toe - input.minEmbedment - input.datum
    const rise = levels
      ? (levels.findLast((l) => l <= room + LENGTH_TOLERANCE) ?? (levels[0] as number))
      : Math.floor(room / input.unit.height + 1e-9) * input.unit.height
    const elevation = tidy(input.datum + rise)
    const last = steps[steps.length - 1]
    if (last && Math.abs(last.elevation - elevation) < LENGTH_TOLERANCE) steps[steps.length - 1] = { ...last, end: stop }
    else steps.push({ start, end: stop, elevation })
  }
  return ok({ steps })
}
