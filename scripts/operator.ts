import { existsSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { database } from '../web/server/database'
import { companyByOperator } from '../web/server/people'
import { verifyHouse } from '../web/server/verify'
import { BackupTrouble, backup, restore } from './backup'
import { ROOT } from './build'
import { ClusterTrouble, clusterFolder, isRunning, startCluster, stopCluster } from './cluster'

const USAGE = `bin/tally for whoever looks after an installation

  bin/tally backup TO            a base backup, a dump and the keys, as a new folder in TO
  bin/tally restore BACKUP       into the empty folder of --data, and looks at every record of it
    --archive FOLDER             with the database's log that was copied there (bin/start --archive)
    --until TIME                 as it was then, such as 2026-05-31T14:30:00Z
    --dump                       from the dump: into another version of PostgreSQL
  bin/tally house verify         looks at every record of the installation
  bin/tally company add NAME     makes a company and prints the link by which its first person joins
    --role office|foreman        what they do; the office when left out
    --url URL                    address of this installation, for the link
  bin/tally company list         the companies there are

  --data FOLDER                  data folder of the installation; .local below the project when left out
`
const say = (line: string) => process.stdout.write(`${line}\n`)

class Usage extends Error {}

interface Options {
  readonly words: readonly string[]
  readonly data: string
  readonly of: (name: string) => string | undefined
  readonly has: (name: string) => boolean
}
const VALUES = ['--data', '--archive', '--until', '--role', '--url']
const FLAGS = ['--dump']

function options(args: readonly string[]): Options {
  const words: string[] = []
  const values = new Map<string, string>()
  for (let i = 0; i < args.length; i++) {
    const a = args[i] as string
    if (VALUES.includes(a)) {
      const value = args[++i]
      if (value === undefined || value.startsWith('--')) throw new Usage(`${a} needs a value`)
      values.set(a, value)
    } else if (FLAGS.includes(a)) values.set(a, '')
    else if (a.startsWith('-')) throw new Usage(`unknown option ${a}`)
    else words.push(a)
  }
  return { words, data: resolve(values.get('--data') ?? join(ROOT, '.local')), of: (n) => values.get(n), has: (n) => values.has(n) }
}

/** Does something with the database of an installation up; as it was before, up or not, when it is done. */
async function withDatabase<T>(local: string, work: () => Promise<T>): Promise<T> {
  if (!existsSync(local)) throw new Usage(`${local} is not there; name the data folder of the installation with --data`)
  const folder = clusterFolder(local, say)
  if (!existsSync(join(folder, 'cluster.json'))) throw new Usage(`there is no installation in ${local}`)
  const before = isRunning(folder)
  const cluster = await startCluster(folder)
  process.env.DATABASE_URL = cluster.appUrl
  try {
    return await work()
  } finally {
    await database().pool.end()
    if (!before) stopCluster(folder)
  }
}

type Command = (o: Options) => Promise<number>
const COMMANDS: Readonly<Record<string, Command>> = {
  async backup(o) {
    const to = o.words[1]
    if (!to) throw new Usage('backup needs the folder that backups are kept in')
    const made = await withDatabase(o.data, () => backup(o.data, resolve(to), say))
    say(`Backed up to ${made}. It holds the keys of the installation: keep it where only you get.`)
    return 0
  },
  async restore(o) {
    const from = o.words[1]
    if (!from) throw new Usage('restore needs a backup')
    if (!o.of('--data')) throw new Usage('restore needs --data, an empty folder to restore into')
    const archive = o.of('--archive')
    const { verified, short } = await restore(
      { from: resolve(from), local: o.data, archive: archive && resolve(archive), until: o.of('--until'), dump: o.has('--dump') },
      say,
    )
    await database().pool.end()
    say(`Restored: ${verified.walls} walls, ${verified.entries} entries, ${verified.photos} photos.`)
    for (const f of verified.faults) say(`▲ ${f.name} does not verify: ${f.fault.message}`)
    for (const name of short) say(`▲ ${name} does not go as far as it did when the backup was made`)
    if (verified.faults.length + short.length > 0) return 1
    say(`Every record verifies. Start it with: bin/start --data ${o.data}`)
    return 0
  },
  async house(o) {
    if (o.words[1] !== 'verify') throw new Usage('house takes verify')
    const seen = await withDatabase(o.data, () => verifyHouse({ keep: false }))
    if (!seen) {
      say('The application looks at the records just now; try again in a minute.')
      return 3
    }
    for (const f of seen.faults) say(`▲ ${f.name} (${f.wall}): ${f.fault.message}`)
    say(
      `${seen.walls} walls, ${seen.entries} entries and ${seen.photos} photos looked at; ${seen.faults.length === 0 ? 'all of them verify' : `${seen.faults.length} do not verify`}.`,
    )
    return seen.faults.length === 0 ? 0 : 1
  },
  async company(o) {
    const [, verb, ...name] = o.words
    if (verb === 'list') {
      const rows = await withDatabase(o.data, () => database().db.selectFrom('company').select(['id', 'name']).orderBy('created_at').execute())
      for (const r of rows) say(`${r.id}  ${r.name}`)
      return 0
    }
    const called = name.join(' ').trim()
    if (verb !== 'add' || called === '' || called.length > 80) throw new Usage('company takes add NAME, or list')
    const role = o.of('--role') ?? 'office'
    if (role !== 'office' && role !== 'foreman') throw new Usage('--role takes office or foreman')
    const made = await withDatabase(o.data, () => companyByOperator(called, role, 'the operator'))
    say(`${called} is there. Whoever looks after it joins by this link, once, until ${made.endsAt}:`)
    say(`${(o.of('--url') ?? 'http://127.0.0.1:3080').replace(/\/$/, '')}/join#${made.token}`)
    return 0
  },
}

async function main() {
  const args = process.argv.slice(2)
  if (args.includes('--help') || args.includes('-h')) return void process.stdout.write(USAGE)
  const o = options(args)
  const name = o.words[0] ?? ''
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined
  if (!command) throw new Usage(`unknown command ${name}`)
  process.exitCode = await command(o)
}

main().catch((error) => {
  const known = error instanceof Usage || error instanceof BackupTrouble || error instanceof ClusterTrouble
  process.stderr.write(
    `tally: ${known ? error.message : error instanceof Error ? (error.stack ?? error.message) : error}\n${error instanceof Usage ? `\n${USAGE}` : ''}`,
  )
  process.exit(2)
})
