import { spawnSync } from 'node:child_process'
import { chmodSync, cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const ROOT = join(__dirname, '../..')
/** What the units stand on, where no system is around them. */
const AROUND = ['sysinit', 'basic', 'shutdown', 'network', 'local-fs', 'timers', 'multi-user', 'time-sync', 'time-set']
const can = spawnSync('systemd-analyze', ['--version']).status === 0

/** The units as an administrator installs them, in a root of their own; what the system’s own check says of them. */
function verified(change: (units: string) => void = () => {}): string {
  const root = mkdtempSync(join(tmpdir(), 'tally-units-'))
  const units = join(root, 'etc/systemd/system')
  const bin = join(root, 'opt/stone-tally/current/bin')
  mkdirSync(units, { recursive: true })
  cpSync(join(ROOT, 'bin'), bin, { recursive: true })
  for (const f of readdirSync(join(ROOT, 'deploy'))) if (/\.(service|timer)$/.test(f)) cpSync(join(ROOT, 'deploy', f), join(units, f))
  for (const t of AROUND) writeFileSync(join(units, `${t}.target`), '[Unit]\nDefaultDependencies=no\n')
  change(units)
  const names = readdirSync(units).filter((f) => f.startsWith('stone-tally'))
  const shown = names.map((f) => f.replace('@.', '@3081.'))
  const { stdout, stderr } = spawnSync('systemd-analyze', [`--root=${root}`, 'verify', ...shown], { encoding: 'utf8' })
  rmSync(root, { recursive: true, force: true })
  return `${stdout}${stderr}`.trim()
}
// Where there is no such command nothing is said of the units by it; the service's own test runs them either way.
;(can ? describe : describe.skip)('units of the service', () => {
  test('are taken by the system as they are written: every key known, every command there', () => expect(verified()).toBe(''))
  test('a key that is misspelled is seen', () =>
    expect(
      verified((at) =>
        writeFileSync(join(at, 'stone-tally-late.service'), '[Service]\nExecStart=/opt/stone-tally/current/bin/serve web\nRestrat=always\n'),
      ),
    ).toMatch(/Unknown key/))
  test('a command that is not there is seen', () =>
    expect(verified((at) => writeFileSync(join(at, 'stone-tally-gone.service'), '[Service]\nExecStart=/opt/stone-tally/current/bin/gone\n'))).toMatch(
      /not executable/,
    ))
  test('the night’s backup is asked for by a calendar that exists', () => {
    const when = /^OnCalendar=(.+)$/m.exec(readFileSync(join(ROOT, 'deploy/stone-tally-backup.timer'), 'utf8'))?.[1] ?? ''
    const { stdout, status } = spawnSync('systemd-analyze', ['calendar', when], { encoding: 'utf8' })
    expect([status, stdout.includes('Next elapse')]).toEqual([0, true])
  })
})

test('what npm installed is marked by npm itself, and no command installs it again', () => {
  const { scripts } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8')) as { scripts: Record<string, string> }
  const at = mkdtempSync(join(tmpdir(), 'tally-installed-'))
  for (const f of ['package.json', 'package-lock.json', 'core/package.json', 'web/package.json', 'scripts/prepare.sh', 'scripts/installed.sh'])
    cpSync(join(ROOT, f), join(at, f))
  mkdirSync(join(at, 'node_modules'))
  // Whatever stands for npm here says that it was asked.
  const npm = join(at, 'bin/npm')
  mkdirSync(join(at, 'bin'))
  writeFileSync(npm, `#!/bin/sh\ntouch ${at}/asked\n`)
  chmodSync(npm, 0o755)
  const run = (command: string) =>
    expect(spawnSync('bash', ['-c', command], { cwd: at, env: { ...process.env, PATH: `${at}/bin:${process.env.PATH}` } }).status).toBe(0)
  const asked = () => {
    run('. scripts/prepare.sh; need_packages')
    const was = existsSync(join(at, 'asked'))
    rmSync(join(at, 'asked'), { force: true })
    return was
  }
  expect(asked()).toBe(true)
  rmSync(join(at, 'node_modules/.installed-from'))
  run(scripts.postinstall ?? 'false')
  expect(asked()).toBe(false)
  writeFileSync(join(at, 'package-lock.json'), '{}')
  expect(asked()).toBe(true)
  rmSync(at, { recursive: true, force: true })
})
