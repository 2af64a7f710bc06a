import type { ChildProcess } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { createInterface } from 'node:readline/promises'
import { createStream } from 'rotating-file-stream'
import { DEMO_PEOPLE, demoState, loadDemo, notOfTheDemo, removeDemo } from '../demo/load'
import { connect } from '../web/server/database'
import { migrate } from '../web/server/migrations'
import { answering, ensureBuilt, LOOPBACK, ROOT, serve, startInstruments } from './build'
import { type Cluster, clusterFolder, freePort, isRunning, startCluster, stopCluster } from './cluster'
import { installationSecrets } from './secrets'
import { type Supervised, supervise, watchOver } from './supervise'

const USAGE = `bin/start: starts Stone Tally on this machine

  bin/start                 installs what is missing, starts database and application
  bin/start --port N        serve on this port (3080 or the next free one otherwise)
  bin/start --reset-demo    put the demo site back as it was first; other companies stay.
                            Asks where something would be lost; --yes answers it
  bin/start --data FOLDER   keep the data there instead of in .local below the project
  bin/start --empty         do not load the demo site; the first page makes your company
  bin/start --archive FOLDER  copy every piece of the database's log there, for a restore to any moment
  bin/start --no-instruments  without the simulated instruments
  bin/start --help          this text

What ends by itself is started again. Ctrl-C stops everything it started; the data stays.
`

const say = (line: string) => console.log(line)
/** A line of the log: what happened while it ran, and when. */
const log = (line: string) => console.log(`${new Date().toISOString()} ${line}`)

interface Options {
  port: number | undefined
  data: string
  reset: boolean
  yes: boolean
  empty: boolean
  instruments: boolean
  archive: string | undefined
}

function options(args: readonly string[]): Options {
  const o: Options = { port: undefined, data: join(ROOT, '.local'), reset: false, yes: false, empty: false, instruments: true, archive: undefined }
  for (let i = 0; i < args.length; i++) {
    const a = args[i]
    if (a === '--reset-demo') o.reset = true
    else if (a === '--yes') o.yes = true
    else if (a === '--empty') o.empty = true
    else if (a === '--no-instruments') o.instruments = false
    else if (a === '--data') {
      const folder = args[++i]
      if (!folder || folder.startsWith('-')) throw new Error('--data takes a folder')
      o.data = resolve(folder)
    } else if (a === '--archive') {
      const folder = args[++i]
      if (!folder || folder.startsWith('-')) throw new Error('--archive takes a folder')
      o.archive = resolve(folder)
    } else if (a === '--port') {
      o.port = Number(args[++i])
      if (!Number.isInteger(o.port) || o.port < 1 || o.port > 65535) throw new Error(`--port takes a number from 1 to 65535, not ${args[i]}`)
    } else throw new Error(`unknown option ${a}; bin/start --help shows them`)
  }
  return o
}

/** Does this process number still belong to a start command? Numbers are given out again. */
function starts(pid: string): boolean {
  try {
    process.kill(Number(pid), 0)
  } catch {
    return false
  }
  const command = `/proc/${pid}/cmdline`
  return !existsSync('/proc/self/cmdline') || (existsSync(command) && readFileSync(command, 'utf8').includes('start.ts'))
}

/** Other copies started from this folder that still run; the last one out stops the database. */
const others = (runs: string) => readdirSync(runs).filter((name) => name !== `${process.pid}` && starts(name)).length

/** Ports of copies that were killed; what they served may take a moment to notice and end. */
function leftBehind(runs: string): number[] {
  return readdirSync(runs)
    .filter((name) => name !== `${process.pid}` && !starts(name))
    .map((name) => {
      const port = Number(readFileSync(join(runs, name), 'utf8'))
      rmSync(join(runs, name), { force: true })
      return port
    })
}

/** The port wanted, or the next free one. A copy that was killed just now frees its port within seconds: it is waited for. */
async function portFor(wanted: number | undefined, runs: string): Promise<number> {
  const left = leftBehind(runs)
  const first = wanted ?? 3080
  for (let i = 0; i < 40 && left.includes(first) && (await freePort(first)) !== first; i++) await new Promise((r) => setTimeout(r, 200))
  const port = await freePort(first)
  if (wanted && port !== wanted) throw new Error(`port ${wanted} is taken; choose another with --port`)
  return port
}

/** What the processes say of themselves, in files of ten megabytes, ten of them, the older ones zipped. */
const logTo = (local: string, name: string) =>
  createStream(`${name}.log`, { path: join(local, 'logs'), size: '10M', maxFiles: 10, compress: 'gzip', teeToStdout: false })

async function agreed(lost: readonly string[], yes: boolean): Promise<boolean> {
  if (lost.length === 0 || yes) return true
  say(`Besides the demo there is here: ${lost.join('; ')}.`)
  if (!process.stdin.isTTY) {
    say('--reset-demo changed nothing. Start it with --reset-demo --yes if that is what you want.')
    return false
  }
  const ask = createInterface({ input: process.stdin, output: process.stdout })
  const answer = await ask.question('Put the demo back as it was first? What is marked "goes" is gone for good. Type yes: ')
  ask.close()
  return answer.trim().toLowerCase() === 'yes'
}

async function main() {
  const args = process.argv.slice(2)
  if (args.includes('--help') || args.includes('-h')) return void process.stdout.write(USAGE)
  const o = options(args)
  const local = o.data
  const runs = join(local, 'runs')
  mkdirSync(runs, { recursive: true })
  const { secret, setupCode: code, checkpointKey } = installationSecrets(local)
  const port = await portFor(o.port, runs)

  const folder = clusterFolder(local, say)
  const mine = join(runs, `${process.pid}`)
  writeFileSync(mine, `${port}`)
  let web: Supervised | undefined
  let instruments: Supervised | undefined
  let leave = () => {}
  let ending = false
  const end = async (exit: number) => {
    if (ending) return
    ending = true
    leave()
    // Whoever is being answered is answered before the database goes.
    await Promise.all([web?.end(), instruments?.end(2000)])
    rmSync(mine, { force: true })
    if (others(runs) === 0 && isRunning(folder)) stopCluster(folder)
    process.exit(exit)
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => end(0))
  try {
    say('Starting the database …')
    let cluster: Cluster = await startCluster(folder, o.archive)
    const owner = connect(cluster.ownerUrl, 2, true)
    const done = await migrate(owner.db as never)
    if (done.length > 0) say(`Database brought up to date: ${done.join(', ')}`)
    process.env.DATABASE_URL = cluster.appUrl
    process.env.AUTH_SECRET = secret
    process.env.CHECKPOINT_KEY = checkpointKey
    const reset = o.reset && (await agreed(await notOfTheDemo(owner.db), o.yes))
    if (o.reset && !reset) {
      await owner.pool.end()
      return await end(3)
    }
    if (reset) await removeDemo(owner.db)
    const companies = await owner.db.selectFrom('company').select('id').execute()
    const before = await demoState(owner.db)
    if (reset || before === 'partly' || (companies.length === 0 && !o.empty)) {
      say(before === 'partly' ? 'The demo site was not loaded to its end; loading the rest …' : 'Loading the demo site …')
      await loadDemo().catch((error) =>
        say(`The demo site could not be completed (${error instanceof Error ? error.message : error}); bin/start --reset-demo puts it back.`),
      )
    }
    const demo = (await demoState(owner.db)) !== 'none'
    const people = await owner.db.selectFrom('user').select('id').limit(1).execute()
    await owner.pool.end()
    ensureBuilt(say)
    if (ending) return
    let instrumentsPort = 0
    if (o.instruments) {
      const first = await startInstruments()
      instrumentsPort = first.port
      let made: ChildProcess | undefined = first.child
      instruments = supervise(
        'The instruments',
        async () => {
          const child = made ?? (await startInstruments(instrumentsPort)).child
          made = undefined
          return child
        },
        log,
      )
    }
    const written = logTo(local, 'application')
    web = supervise(
      'The application',
      () =>
        serve({
          log: written,
          port,
          databaseUrl: cluster.appUrl,
          secret,
          instruments: instrumentsPort,
          setupCode: code,
          checkpointKey,
          dataFolder: local,
          // Whatever names are asked for: this command itself looks at it by this machine's own.
          env: { SERVED_AS: `${process.env.SERVED_AS ?? ''} ${LOOPBACK}` },
        }),
      log,
    )
    leave = watchOver(
      'The database',
      () => isRunning(folder),
      async () => {
        const again = await startCluster(folder, o.archive)
        const moved = again.port !== cluster.port
        cluster = again
        if (moved) web?.restart()
      },
      log,
    )
    await answering(port)
    say(`\nStone Tally: http://127.0.0.1:${port}\n`)
    if (demo) {
      say('Demo sign-ins (password for all: quarry-lantern)')
      for (const p of DEMO_PEOPLE) say(`  ${p.email.padEnd(24)} ${p.role}`)
    } else if (people.length === 0) say(`Nobody uses it yet: the first page makes your company. Its set-up code: ${code}`)
    say('\nCtrl-C stops it.')
  } catch (error) {
    console.error(error instanceof Error ? error.message : error)
    await end(1)
  }
}

main().catch((error) => {
  console.error(error instanceof Error ? error.message : error)
  process.exit(2)
})
