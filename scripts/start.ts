import { createHash, randomBytes } from 'node:crypto'
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { DEMO_PEOPLE, demoPresent, loadDemo, removeDemo } from '../demo/load'
import { connect } from '../web/server/database'
import { migrate } from '../web/server/migrations'
import { answering, ensureBuilt, ROOT, serve, startInstruments } from './build'
import { freePort, isRunning, reachable, startCluster, stopCluster } from './cluster'

const USAGE = `bin/start: starts Stone Tally on this machine

  bin/start                 installs what is missing, starts database and application
  bin/start --port N        serve on this port (3080 or the next free one otherwise)
  bin/start --reset-demo    put the demo site back as it was first; other companies stay
  bin/start --empty         do not load the demo site; the first page makes your company
  bin/start --no-instruments  without the simulated instruments
  bin/start --help          this text

Ctrl-C stops everything it started. All data stays in .local below the project.
`

const say = (line: string) => console.log(line)

interface Options {
  port: number | undefined
  reset: boolean
  empty: boolean
  instruments: boolean
}

function options(args: readonly string[]): Options {
  const o: Options = { port: undefined, reset: false, empty: false, instruments: true }
  for (let i = 0; i < args.length; i++) {
    const a = args[i]
    if (a === '--reset-demo') o.reset = true
    else if (a === '--empty') o.empty = true
    else if (a === '--no-instruments') o.instruments = false
    else if (a === '--port') {
      o.port = Number(args[++i])
      if (!Number.isInteger(o.port) || o.port < 1 || o.port > 65535) throw new Error(`--port takes a number from 1 to 65535, not ${args[i]}`)
    } else throw new Error(`unknown option ${a}; bin/start --help shows them`)
  }
  return o
}

/** The private cluster lives below the project, unless the database's system user cannot get there. */
function clusterFolder(local: string): string {
  if (reachable(ROOT)) return join(local, 'postgres')
  const folder = join('/var/lib/stone-tally', createHash('sha256').update(ROOT).digest('hex').slice(0, 12))
  say(`The system user postgres cannot reach ${ROOT}, so the database lives in ${folder}.`)
  return folder
}

/** Other copies started from this folder that still run; the last one out stops the database. */
function others(runs: string): number {
  let n = 0
  for (const name of readdirSync(runs)) {
    if (name === `${process.pid}`) continue
    try {
      process.kill(Number(name), 0)
      n++
    } catch {
      rmSync(join(runs, name), { force: true })
    }
  }
  return n
}

async function main() {
  const args = process.argv.slice(2)
  if (args.includes('--help') || args.includes('-h')) return void process.stdout.write(USAGE)
  const o = options(args)
  const local = join(ROOT, '.local')
  const runs = join(local, 'runs')
  mkdirSync(runs, { recursive: true })
  const secretFile = join(local, 'auth-secret')
  if (!existsSync(secretFile)) writeFileSync(secretFile, randomBytes(32).toString('hex'), { mode: 0o600 })
  chmodSync(secretFile, 0o600)
  const secret = readFileSync(secretFile, 'utf8').trim()

  const port = o.port ?? (await freePort(3080))
  if (o.port && (await freePort(o.port)) !== o.port) throw new Error(`port ${o.port} is taken; choose another with --port`)

  const folder = clusterFolder(local)
  const mine = join(runs, `${process.pid}`)
  writeFileSync(mine, '')
  let web: ReturnType<typeof serve> | undefined
  let instruments: Awaited<ReturnType<typeof startInstruments>> | undefined
  let ending = false
  const end = (code: number) => {
    if (ending) return
    ending = true
    web?.kill('SIGTERM')
    instruments?.end()
    rmSync(mine, { force: true })
    if (others(runs) === 0 && isRunning(folder)) stopCluster(folder)
    process.exit(code)
  }
  process.on('SIGINT', () => end(0))
  process.on('SIGTERM', () => end(0))
  process.on('SIGHUP', () => end(0))
  try {
    say('Starting the database …')
    const cluster = await startCluster(folder)
    const owner = connect(cluster.ownerUrl, 2)
    const done = await migrate(owner.db as never)
    if (done.length > 0) say(`Database brought up to date: ${done.join(', ')}`)
    process.env.DATABASE_URL = cluster.appUrl
    process.env.AUTH_SECRET = secret
    if (o.reset) await removeDemo(owner.db)
    const companies = await owner.db.selectFrom('company').select('id').execute()
    if (o.reset || (companies.length === 0 && !o.empty)) {
      say('Loading the demo site …')
      await loadDemo()
    }
    const demo = await demoPresent(owner.db)
    await owner.pool.end()
    ensureBuilt(say)
    if (o.instruments) instruments = await startInstruments()
    web = serve(port, cluster.appUrl, secret, 'inherit', instruments?.port ?? 0)
    web.on('exit', (code) => {
      if (!ending) {
        console.error(`The application ended by itself (${code}).`)
        end(1)
      }
    })
    await answering(port)
    say(`\nStone Tally: http://127.0.0.1:${port}\n`)
    if (demo) {
      say('Demo sign-ins (password for all: quarry-lantern)')
      for (const p of DEMO_PEOPLE) say(`  ${p.email.padEnd(24)} ${p.role}`)
    } else if (companies.length === 0) say('Nobody uses it yet: the first page makes your company.')
    say('\nCtrl-C stops it.')
  } catch (error) {
    console.error(error instanceof Error ? error.message : error)
    end(1)
  }
}

main().catch((error) => {
  console.error(error instanceof Error ? error.message : error)
  process.exit(2)
})
