import { type ChildProcess, execFileSync, spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { buildSync } from 'esbuild'

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..')
const WEB = join(ROOT, 'web')
const STAMP = join(WEB, '.next', 'built-from')

function* files(folder: string): Generator<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    if (['node_modules', '.next', 'test', 'next-env.d.ts'].includes(entry.name) || entry.name.endsWith('.tsbuildinfo')) continue
    const path = join(folder, entry.name)
    if (entry.isDirectory()) yield* files(path)
    else yield path
  }
}

/** Fingerprint of everything that goes into the build. */
function sources(): string {
  const hash = createHash('sha256')
  for (const folder of [join(ROOT, 'core', 'src'), WEB]) for (const f of files(folder)) hash.update(f.slice(ROOT.length)).update(readFileSync(f))
  hash.update(readFileSync(join(ROOT, 'package-lock.json')))
  return hash.digest('hex')
}

/** Builds the application unless what is built is from these very sources. */
export function ensureBuilt(say: (line: string) => void) {
  const now = sources()
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === now) return
  say('Building the application (about a minute) …')
  rmSync(STAMP, { force: true })
  const next = [join(WEB, 'node_modules', '.bin', 'next'), join(ROOT, 'node_modules', '.bin', 'next')].find(existsSync) ?? 'next'
  try {
    execFileSync(next, ['build'], {
      cwd: WEB,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' },
    })
  } catch (error) {
    const e = error as { stdout?: Buffer; stderr?: Buffer }
    throw new Error(`the build failed:\n${e.stdout ?? ''}\n${e.stderr ?? ''}`)
  }
  const served = join(WEB, '.next', 'standalone', 'web')
  mkdirSync(join(served, '.next'), { recursive: true })
  cpSync(join(WEB, '.next', 'static'), join(served, '.next', 'static'), { recursive: true })
  // What runs beside the request thread is a script of its own: it lays plans out, or unpacks a large picture.
  buildSync({
    entryPoints: [join(WEB, 'server', 'layout-worker.ts'), join(WEB, 'server', 'picture-process.ts')],
    outdir: served,
    outExtension: { '.js': '.mjs' },
    external: ['sharp'],
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'error',
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
  })
  // What runs on the device when nobody answers, with the list of all it keeps.
  const kept = [...files(join(WEB, '.next', 'static'))].map((f) => ({
    url: `/_next/static${f.slice(join(WEB, '.next', 'static').length)}`,
    revision: null,
  }))
  mkdirSync(join(served, 'public'), { recursive: true })
  buildSync({
    entryPoints: [join(WEB, 'worker', 'sw.ts')],
    outfile: join(served, 'public', 'sw.js'),
    bundle: true,
    minify: true,
    target: 'es2022',
    logLevel: 'error',
    define: {
      'self.__SW_MANIFEST': JSON.stringify([...kept, { url: '/shell', revision: now }, { url: '/manifest.webmanifest', revision: now }]),
      'process.env.NODE_ENV': '"production"',
    },
  })
  writeFileSync(STAMP, now)
}

/** What the application is served with. */
export interface Serving {
  readonly port: number
  readonly databaseUrl: string
  readonly secret: string
  /** Port of the instruments; 0 without. */
  readonly instruments?: number | undefined
  /** Asked for on the first page of an empty installation. */
  readonly setupCode?: string | undefined
  /** Private key that checkpoints are signed with, 64 hex digits; none are made without. */
  readonly checkpointKey?: string | undefined
  /** Where the data lies, so that the room left there is known. */
  readonly dataFolder?: string | undefined
  readonly errors?: 'inherit' | 'ignore'
  /** Where its log goes; nowhere when left out. */
  readonly log?: NodeJS.WritableStream
  /** What it is set up with besides. */
  readonly env?: Readonly<Record<string, string>>
}

/** Names of this very machine. */
export const LOOPBACK = '127.0.0.1 localhost [::1]'

/** Serves the built application on loopback; it ends with this process, however this one ends. */
export function serve({
  port,
  databaseUrl,
  secret,
  instruments = 0,
  setupCode = '',
  checkpointKey = '',
  dataFolder = '',
  errors = 'inherit',
  log,
  env = {},
}: Serving) {
  const child = spawn(
    process.execPath,
    ['--require', join(ROOT, 'scripts', 'child.cjs'), '--require', join(WEB, 'front.cjs'), join(WEB, '.next', 'standalone', 'web', 'server.js')],
    {
      stdio: ['ignore', log ? 'pipe' : 'ignore', errors, 'ipc'],
      env: {
        ...process.env,
        NODE_ENV: 'production',
        // A request under any other name is not for this installation.
        SERVED_AS: process.env.SERVED_AS ?? LOOPBACK,
        HOSTNAME: '127.0.0.1',
        PORT: `${port}`,
        DATABASE_URL: databaseUrl,
        AUTH_SECRET: secret,
        INSTRUMENTS_PORT: `${instruments}`,
        SETUP_CODE: setupCode,
        CHECKPOINT_KEY: checkpointKey,
        DATA_FOLDER: dataFolder,
        // Longer than a proxy or a device keeps a connection for its next request: otherwise one is sent into a closing one, and lost.
        KEEP_ALIVE_TIMEOUT: '65000',
        LAYOUT_WORKER: join(WEB, '.next', 'standalone', 'web', 'layout-worker.mjs'),
        PICTURE_PROCESS: join(WEB, '.next', 'standalone', 'web', 'picture-process.mjs'),
        NEXT_TELEMETRY_DISABLED: '1',
        ...env,
        // What was made by another state of the sources is made anew.
        BUILT_FROM: existsSync(STAMP) ? readFileSync(STAMP, 'utf8') : '',
      },
    },
  )
  if (log) child.stdout?.pipe(log, { end: false })
  return child
}

/** Starts the instruments that stand in for real ones; they end with this process. */
export function startInstruments(port = 0, seed = 1): Promise<{ port: number; child: ChildProcess; end(): void }> {
  const child = spawn(process.execPath, ['--import', 'tsx', join(ROOT, 'instruments', 'main.ts'), `${port}`, `${seed}`], {
    cwd: ROOT,
    stdio: ['pipe', 'pipe', 'inherit'],
  })
  return new Promise((resolve, reject) => {
    child.stdout.once('data', (d: Buffer) => resolve({ port: Number(d.toString().trim()), child, end: () => child.kill('SIGTERM') }))
    child.once('exit', (code) => reject(new Error(`the instruments did not start (${code})`)))
  })
}

/** Waits until the application answers, database and all. */
export async function answering(port: number, seconds = 60): Promise<void> {
  const end = Date.now() + seconds * 1000
  for (;;) {
    try {
      if ((await fetch(`http://127.0.0.1:${port}/api/health`)).ok) return
    } catch {
      // not up yet
    }
    if (Date.now() > end) throw new Error(`the application did not answer on port ${port} within ${seconds} s`)
    await new Promise((r) => setTimeout(r, 150))
  }
}
