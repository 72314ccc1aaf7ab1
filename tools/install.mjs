import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { BROWSERS, SHELL } from './browser.mjs'
import { node, ROOT, run } from './run.mjs'
import { say, Stop } from './say.mjs'

const STATE = join(ROOT, '.mast')
const stampFile = (name) => join(STATE, `${name}.stamp`)
const stampOf = (name) => (existsSync(stampFile(name)) ? readFileSync(stampFile(name), 'utf8') : '')

function setStamp(name, value) {
  mkdirSync(STATE, { recursive: true })
  writeFileSync(stampFile(name), value)
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major < 20 || (major === 20 && minor < 19))
    throw new Stop(`Able Mast needs Node.js 20.19 or newer; this is ${process.versions.node}.`)
}

function filesUnder(path) {
  if (!existsSync(path)) return []
  if (statSync(path).isFile()) return [path]
  return readdirSync(path, { withFileTypes: true })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .flatMap((entry) => (entry.name === 'node_modules' ? [] : filesUnder(join(path, entry.name))))
}

export function hashOf(paths) {
  const hash = createHash('sha256')
  for (const file of paths.flatMap((path) => filesUnder(join(ROOT, path))))
    hash.update(file.slice(ROOT.length)).update('\0').update(readFileSync(file)).update('\0')
  return hash.digest('hex')
}

/** npm packages as the lock file says. */
export async function ensurePackages() {
  if (isAsItIs()) return
  const wanted = hashOf(['package.json', 'package-lock.json'])
  if (stampOf('npm') === wanted && existsSync(join(ROOT, 'node_modules/nuxt'))) return
  say('Installing npm packages …')
  const { code, output } = await run('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund'], {
    quiet: true,
  })
  if (code !== 0) throw new Stop(`npm could not install the packages: ${lastLine(output)}`, 5)
  setStamp('npm', wanted)
}

/** Whether packages and build are taken as they are: a test that starts `mast` changes neither under the others. */
const isAsItIs = () => process.env['MAST_AS_IT_IS'] === '1'

/** Types that the build tools make from the configuration. */
export async function ensureTypes() {
  const { code, output } = await node('node_modules/nuxt/bin/nuxt.mjs', ['prepare'], { quiet: true })
  if (code !== 0) throw new Stop(`nuxt prepare failed: ${lastLine(output)}`, 5)
}

const SOURCES = [
  ...['app', 'core', 'contracts', 'server', 'public'],
  ...['nuxt.config.ts', 'tools/bundle.mjs', 'tools/field-bundle.mjs', 'package-lock.json'],
]

export async function ensureBuilt() {
  if (isAsItIs()) return
  const wanted = hashOf(SOURCES)
  if (stampOf('build') === wanted && existsSync(join(ROOT, '.output/server/index.mjs'))) return
  say('Building (two to three minutes) …')
  const { code, output } = await node('node_modules/nuxt/bin/nuxt.mjs', ['build'], { quiet: true })
  if (code !== 0) throw new Stop(`the build failed:\n${output.split('\n').slice(-25).join('\n')}`, 6)
  setStamp('build', wanted)
}

const lastLine = (text) => text.trim().split('\n').at(-1) ?? ''

export function postgresBin() {
  const base = '/usr/lib/postgresql'
  const versions = existsSync(base)
    ? readdirSync(base).filter((v) => existsSync(join(base, v, 'bin/postgres')))
    : []
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0]
  return newest ? join(base, newest, 'bin') : null
}

/** Programs of the kernel twin, and the packages they come from. */
const TWIN = [
  ['ip', 'iproute2'],
  ['nft', 'nftables'],
  ['dnsmasq', 'dnsmasq-base'],
  ['udhcpc', 'udhcpc'],
  ['fping', 'fping'],
  ['wireguard-go', 'wireguard-go'],
  ['wg', 'wireguard-tools'],
  ['named-checkzone', 'bind9-utils'],
  ['yanglint', 'libyang2-tools libyuma-base'],
]
/**
 * Programs of the kernel twin whose packages start a server, or change how the machine itself is set up.
 * They are unpacked for the tests alone, and nothing of them is set up or started on the machine.
 */
const SERVERS = [
  ['kea-dhcp4', 'kea-dhcp4-server'],
  ['unbound', 'unbound'],
  ['named', 'bind9'],
  ['ovs-vswitchd', 'openvswitch-switch'],
  ['ethtool', 'ethtool'],
  ['dhclient', 'isc-dhcp-client'],
  ['hostapd', 'hostapd'],
  ['wpa_passphrase', 'wpasupplicant'],
  ['regulatory.db-debian', 'wireless-regdb'],
]
const UNPACKED = join(STATE, 'debian')
/** Where Debian's packages have programs; Open vSwitch has its own in a folder of alternatives. */
const PROGRAMS = ['usr/sbin', 'usr/bin', 'sbin', 'bin', 'usr/lib/openvswitch-switch']
/** The table of radio rules is no program, and is asked for like one. */
const PLACES = [...PROGRAMS, 'lib/firmware']
const isThere = (name) =>
  [...PLACES, 'usr/local/bin', 'usr/local/sbin'].some((folder) => existsSync(join('/', folder, name)))
const isUnpacked = (name) => PLACES.some((folder) => existsSync(join(UNPACKED, folder, name)))

const isRoot = () => process.getuid?.() === 0

const missingForTwin = () =>
  TWIN.filter(([name]) => !isThere(name)).flatMap(([, packages]) => packages.split(' '))

/** Folders of libraries that were unpacked: one for this kind of machine, named by Debian. */
function unpackedLibraries() {
  const folders = ['usr/lib', 'lib'].map((folder) => join(UNPACKED, folder)).filter(existsSync)
  const ofMachine = folders.flatMap((folder) =>
    readdirSync(folder).flatMap((name) => (name.includes('-linux-gnu') ? [join(folder, name)] : [])),
  )
  return [...folders, ...ofMachine]
}

/** What the twin's programs are found by: those of the machine first, then those that were unpacked. */
export const twinEnvironment = () => ({
  PATH: [process.env.PATH, ...PROGRAMS.map((folder) => join(UNPACKED, folder))].join(':'),
  LD_LIBRARY_PATH: [process.env.LD_LIBRARY_PATH ?? [], unpackedLibraries()].flat().join(':'),
  MAST_UNPACKED: UNPACKED,
})

/**
 * Unpacks the servers that the twin asks, with what they need and the machine lacks.
 * Without them the twin says what it skips.
 */
async function unpackServers() {
  const missing = SERVERS.filter(([name]) => !isThere(name) && !isUnpacked(name)).map(([, name]) => name)
  if (missing.length === 0) return
  const apt = await installer()
  if (!apt) return
  say(`Unpacking from Debian, for the kernel twin alone: ${missing.join(', ')} …`)
  const archives = join(UNPACKED, 'archives')
  mkdirSync(join(archives, 'partial'), { recursive: true })
  const own = ['-o', `Dir::Cache::archives=${archives}`, '-o', 'APT::Sandbox::User=root']
  await apt(['update'])
  const wanted = ['install', '-y', '--no-install-recommends', '--download-only', ...own, ...missing]
  const { code, output } = await apt(wanted)
  if (code !== 0) return say(`They could not be fetched: ${lastLine(output)}`)
  for (const name of readdirSync(archives).filter((file) => file.endsWith('.deb')))
    await run('dpkg-deb', ['-x', join(archives, name), UNPACKED], { quiet: true })
  rmSync(archives, { recursive: true, force: true })
}

/** `apt-get` as root, or by sudo where that asks for no password; null where neither is. */
async function installer() {
  const words = ['DEBIAN_FRONTEND=noninteractive', 'apt-get']
  if (isRoot()) return (args) => run('env', [...words, ...args], { quiet: true })
  const { code } = await run('sudo', ['-n', 'true'], { quiet: true })
  return code === 0 ? (args) => run('sudo', ['-n', 'env', ...words, ...args], { quiet: true }) : null
}

/** Where nothing can be installed, a whole Chromium will do. */
const hasBrowser = () => (isRoot() ? [SHELL] : BROWSERS).some(existsSync)

/**
 * Debian packages that are missing, installed where we may, listed where we may not.
 * What only the kernel twin needs is installed where we may; where we may not, the twin says that it was
 * skipped.
 */
export async function ensureDebian({ browser, twin = false }) {
  const missing = [
    ...(twin && isRoot() ? missingForTwin() : []),
    ...(process.env.DATABASE_URL || postgresBin() ? [] : ['postgresql']),
    ...(!browser || hasBrowser() ? [] : ['chromium-headless-shell']),
  ]
  if (missing.length > 0) await installMissing(missing)
  if (twin && isRoot()) await unpackServers()
}

async function installMissing(missing) {
  const apt = await installer()
  const byHand = `Missing: ${missing.join(', ')}. Install with: sudo apt-get install ${missing.join(' ')}`
  if (!apt)
    throw new Stop(
      `${byHand}${missing.includes('postgresql') ? ' (or point DATABASE_URL at a PostgreSQL)' : ''}`,
      4,
    )
  say(`Installing from Debian: ${missing.join(', ')} …`)
  await apt(['update'])
  const { code, output } = await apt(['install', '-y', '--no-install-recommends', ...missing])
  if (code !== 0)
    throw new Stop(`Debian's packages could not be installed (${lastLine(output)}). ${byHand}`, 4)
}
