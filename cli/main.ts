import { readFileSync, statSync } from 'node:fs'
import { FILE_LIMIT, issueUnder, judgedBy, type Plan, type Problem, type Rules, readPlanFile, say } from '@stone-tally/core'
import { calculate, NAMES, schemaOf } from './calc'
import { readReport, WRITERS } from './drawing'
import { layOut, REPORTS } from './plan'
import { RecordTrouble, saidOf, verifyFile } from './record'
import { readGiven, rulesReport } from './rules'

const USAGE = `tally: Stone Tally on the command line

  tally calc NAME              JSON on standard input, JSON on standard output, SI units
  tally calc --list            the calculators
  tally calc NAME --schema     JSON Schema of a calculator's input
  tally plan FILE layout       what the Board computes for a plan file
  tally plan FILE quantities   what the wall takes
  tally plan FILE stages       every step in order: items, gates, limits, and where each rule comes from
  tally plan FILE units        every piece: section, course, kind, station, position along its own face, length
  tally plan FILE points       inspection points, step by step
  tally plan FILE cautions     what is to be minded
    --rules FILE               under these rules; once for the company, a second time for the site
  tally rules FILE…            rule files, company then site, and a plan for the wall: resolved, and compared with what ships
  tally record verify FILE     is an exported record intact? Of any length, photos, plans and checkpoints with it
    --against CODE             and is it the one this code was made of? Once for each code, or a file that holds it
    --key KEY                  only checkpoints of this installation count
  tally read FILE              lines and grades of a DXF, LandXML or survey file as they would be offered, as JSON
    --line NAME                one line only
    --units m|cm|mm|ft|usft|in whatever the file says
    --axes northing-first|easting-first   where a list of points has no header
  tally write PLAN --as dxf|landxml|csv   the set-out of a plan file

  tally backup, restore, house, company    for whoever looks after an installation; tally backup --help
`

class Stop extends Error {
  constructor(
    readonly code: number,
    message: string,
  ) {
    super(message)
  }
}

const refuse = (p: Problem) => new Stop(2, JSON.stringify({ error: { field: p.field, message: plain(p.message) } }))
/** Sentences in metres: the command line speaks SI. */
const plain = (text: string) => say(text, 'metric')
const print = (value: unknown) => process.stdout.write(plain(`${JSON.stringify(value, null, 2)}\n`))

function file(path: string | undefined): string {
  if (!path) throw new Stop(2, 'tally: name a file')
  try {
    const size = statSync(path).size
    if (size > FILE_LIMIT) throw new Stop(2, `tally: ${path} is ${(size / 1048576).toFixed(1)} MB; at most ${FILE_LIMIT / 1048576} MB are read`)
    return readFileSync(path, 'utf8')
  } catch (error) {
    if (error instanceof Stop) throw error
    throw new Stop(2, `tally: cannot read ${path}: ${error instanceof Error ? error.message : 'unreadable'}`)
  }
}
const badFile = (path: string, problems: readonly Problem[]) =>
  new Stop(
    2,
    `tally: ${path}: ${problems
      .slice(0, 5)
      .map((p) => `${p.field}: ${p.message}`)
      .join('; ')}`,
  )

function calc(args: readonly string[]) {
  const [name, flag] = args
  if (name === '--list') return process.stdout.write(`${NAMES.join('\n')}\n`)
  if (!name) throw new Stop(2, 'tally: calc needs a name; tally calc --list shows them')
  if (!NAMES.includes(name)) throw refuse({ field: 'name', message: `"${name}" is not a calculator; there are ${NAMES.join(', ')}` })
  if (flag === '--schema') return print(schemaOf(name))
  if (flag !== undefined) throw new Stop(2, `tally: unknown option ${flag}`)
  const result = calculate(name, readFileSync(0, 'utf8'))
  if (!result.ok) throw refuse(result.problems[0] ?? { field: '', message: 'refused' })
  return print(result.value)
}

function plan(args: readonly string[]) {
  const [path, what = 'layout', ...rest] = args
  const report = Object.hasOwn(REPORTS, what) ? REPORTS[what] : undefined
  if (!report)
    throw new Stop(
      2,
      `tally: plan FILE takes ${Object.keys(REPORTS)
        .join(', ')
        .replace(/, (\w+)$/, ' or $1')}, not ${what}`,
    )
  const content = file(path)
  const read = readPlanFile(content)
  if (!read.ok) throw badFile(path ?? '', read.problems)
  const judged = under(path ?? '', read.value, rest)
  const layout = layOut(judged.plan)
  if (!layout.ok) throw badFile(path ?? '', layout.problems)
  // By which table it is judged stands before anything that is judged.
  const said = JSON.stringify({ ruleTable: judged.table, ...(report(layout.value) as object) }, null, 2)
  process.stdout.write(plain(`${said.replace(/^\{\n {2}/, '{ ')}\n`))
}

/** The plan as it is judged: by its own table, or the newest; with rule files as it would be issued under them. */
function under(path: string, found: Plan, args: readonly string[]): { readonly plan: Plan; readonly table: string } {
  if (args.length === 0) {
    const judged = judgedBy(found)
    if (!judged.ok) throw badFile(path, judged.problems)
    return judged.value
  }
  const files: Rules[] = []
  for (let i = 0; i < args.length; i += 2) {
    if (args[i] !== '--rules') throw new Stop(2, `tally: unknown option ${args[i]}; there is --rules`)
    const name = args[i + 1]
    if (name === undefined) throw new Stop(2, 'tally: --rules needs a file')
    const given = readGiven(name, file(name))
    if (!given.ok) throw badFile(name, given.problems)
    if (!('rules' in given.value)) throw new Stop(2, `tally: ${name} is a plan, not a rule file`)
    files.push(given.value.rules)
  }
  if (files.length > 2) throw new Stop(2, 'tally: --rules at most twice: company, then site')
  const made = issueUnder(found, { company: files[0], site: files[1] })
  if (!made.ok) throw badFile(path, made.problems)
  return { plan: made.value, table: `rule table ${made.value.ruleTable}, with the rules given` }
}

function rules(args: readonly string[]) {
  if (args.length === 0) throw new Stop(2, 'tally: rules needs a file')
  const given = args.map((name) => {
    const read = readGiven(name, file(name))
    if (!read.ok) throw badFile(name, read.problems)
    return read.value
  })
  const report = rulesReport(given)
  if (!report.ok) throw refuse(report.problems[0] ?? { field: '', message: 'refused' })
  print(report.value)
}

async function record(args: readonly string[]) {
  const [verb, path, ...rest] = args
  if (verb !== 'verify' || !path) throw new Stop(2, 'tally: record takes verify FILE')
  const codes: string[] = []
  let key: string | undefined
  for (let i = 0; i < rest.length; i += 2) {
    const value = rest[i + 1]
    if (value === undefined) throw new Stop(2, `tally: ${rest[i]} needs a value`)
    if (rest[i] === '--against') codes.push(value)
    else if (rest[i] === '--key') key = value.toLowerCase()
    else throw new Stop(2, `tally: unknown option ${rest[i]}; there are --against, --key`)
  }
  try {
    const report = await verifyFile(path, { codes, key })
    if (!report.intact) throw new Stop(1, saidOf(report))
    process.stdout.write(`${saidOf(report)}\n`)
  } catch (error) {
    throw error instanceof RecordTrouble ? new Stop(error.code, error.message) : error
  }
}

/** Options of the form --name value; anything else is refused by name. */
function optionsOf(args: readonly string[], allowed: readonly string[]): Readonly<Record<string, string>> {
  const found: Record<string, string> = {}
  for (let i = 0; i < args.length; i += 2) {
    const name = (args[i] ?? '').replace(/^--/, '')
    const value = args[i + 1]
    if (!args[i]?.startsWith('--') || !allowed.includes(name))
      throw new Stop(2, `tally: unknown option ${args[i]}; there are ${allowed.map((a) => `--${a}`).join(', ')}`)
    if (value === undefined) throw new Stop(2, `tally: ${args[i]} needs a value`)
    found[name] = value
  }
  return found
}

function bytes(path: string | undefined): Uint8Array {
  if (!path) throw new Stop(2, 'tally: name a file')
  try {
    return readFileSync(path)
  } catch (error) {
    throw new Stop(2, `tally: cannot read ${path}: ${error instanceof Error ? error.message : 'unreadable'}`)
  }
}

function read(args: readonly string[]) {
  const [path, ...rest] = args
  const o = optionsOf(rest, ['line', 'units', 'axes'])
  const report = readReport(bytes(path), o)
  if (!report.ok) throw refuse(report.problems[0] ?? { field: 'file', message: 'refused' })
  print(report.value)
}

function write(args: readonly string[]) {
  const [path, ...rest] = args
  const { as = '' } = optionsOf(rest, ['as'])
  if (!Object.hasOwn(WRITERS, as)) throw new Stop(2, `tally: write takes --as ${Object.keys(WRITERS).join(', --as ')}`)
  const found = readPlanFile(file(path))
  if (!found.ok) throw badFile(path ?? '', found.problems)
  const layout = layOut(under(path ?? '', found.value, []).plan)
  if (!layout.ok) throw badFile(path ?? '', layout.problems)
  process.stdout.write((WRITERS[as] as (typeof WRITERS)[string])(layout.value, new Date().toISOString()))
}

const COMMANDS: Readonly<Record<string, (args: readonly string[]) => unknown>> = { calc, plan, record, read, rules, write }

try {
  const [command, ...rest] = process.argv.slice(2)
  if (command === undefined || command === '--help' || command === '-h') process.stdout.write(USAGE)
  else {
    const run = Object.hasOwn(COMMANDS, command) ? COMMANDS[command] : undefined
    if (!run) throw new Stop(2, `tally: unknown command ${command}; tally --help shows the commands`)
    await run(rest)
  }
} catch (error) {
  if (!(error instanceof Stop)) throw error
  process.stderr.write(plain(`${error.message}\n`))
  process.exitCode = error.code
}
