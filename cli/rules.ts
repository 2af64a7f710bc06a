import {
  CHOICES,
  compareRules,
  LEVELS,
  limitDef,
  type Problem,
  pointsBy,
  type Result,
  RULE_UNITS,
  type Rules,
  readPlanFile,
  readRules,
  resolveRules,
  type WallRules,
} from '@stone-tally/core'

/** A file given to `tally rules`: a level's rules, or a plan whose own rules are the wall's. */
type Given = { readonly file: string; readonly rules: Rules } | { readonly file: string; readonly wall: WallRules }

/** Reads a rule file, or a plan file for its own rules; problems name the file. */
export function readGiven(file: string, text: string): Result<Given> {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    return { ok: false, problems: [{ field: file, message: 'is not JSON' }] }
  }
  const at = (problems: readonly Problem[]) => ({
    ok: false as const,
    problems: problems.map((p) => ({ field: `${file}: ${p.field}`, message: p.message })),
  })
  if ((value as { format?: unknown } | null)?.format === 'stone-tally') {
    const plan = readPlanFile(text)
    return plan.ok ? { ok: true, value: { file, wall: plan.value.rules ?? {} } } : at(plan.problems)
  }
  const read = readRules(value)
  return read.ok ? { ok: true, value: { file, rules: read.value } } : at(read.problems)
}

/**
 * The effective rules of the files in order, company first, then site; a plan file is the wall. Each rule with who set it, and what differs
 * from what ships.
 *
 * @example rulesReport([company, site])
 */
export function rulesReport(given: readonly Given[]): Result<unknown> {
  const levels = given.flatMap((g) => ('rules' in g ? [g.rules] : []))
  const walls = given.flatMap((g) => ('wall' in g ? [g.wall] : []))
  if (levels.length > 2)
    return { ok: false, problems: [{ field: 'FILE', message: `two rule files at most, company and site; not ${levels.length}` }] }
  if (walls.length > 1) return { ok: false, problems: [{ field: 'FILE', message: 'one plan file at most' }] }
  const book = resolveRules({ company: levels[0], site: levels[1], wall: walls[0] })
  if (!book.ok) return book
  const by = (rule: string) => {
    const set = book.value.set.find((s) => s.rule === rule)
    return { from: set?.level ?? LEVELS[0], ...(set ? { why: set.why, ...(set.by ? { by: set.by } : {}), ...(set.firm ? { firm: true } : {}) } : {}) }
  }
  return {
    ok: true,
    value: {
      shipped: book.value.shipped,
      limits: book.value.limits.map((l) => {
        const def = limitDef(l.limit)
        return { ...l, unit: def ? RULE_UNITS[def.of] : '', sense: def?.sense, ...by(`limit.${l.limit}`) }
      }),
      choices: CHOICES.map((c) => ({
        choice: c.id,
        option: book.value.choices.find((x) => x.choice === c.id)?.option ?? c.standard,
        options: c.options.map((o) => o.id),
        ...by(`choice.${c.id}`),
      })),
      points: pointsBy({ book: book.value }).map((p) => ({
        point: p.id,
        kind: p.kind,
        roles: p.roles,
        own: p.own,
        ...(p.at ? { at: p.at } : {}),
        ...by(`point.${p.id}`),
      })),
      changes: compareRules(book.value),
    },
  }
}
