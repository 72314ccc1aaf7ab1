import { createCipheriv, createDecipheriv, createHash, randomBytes, scryptSync } from 'node:crypto'
import { existsSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { createInterface } from 'node:readline/promises'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { ensureDebian, ensurePackages, checkNode } from './install.mjs'
import {
  databaseProgram,
  hasOtherKey,
  keepServerKey,
  serverKey,
  startKeptDatabase,
  startThrowAway,
} from './postgres.mjs'
import { run } from './run.mjs'
import { say, Stop } from './say.mjs'

// Everything in one archive: the database with its photographs, the server's key under a passphrase, and a manifest.

const require = createRequire(import.meta.url)
const FORMAT = 1
const PARTS = ['database.dump', 'server.key.sealed']
const LEAST_PASSPHRASE = 12
/** Cost of a try at the passphrase: 128 MiB (OWASP's first choice for scrypt, from memory). */
const SCRYPT = { N: 2 ** 17, r: 8, p: 1, maxmem: 256 * 2 ** 20 }

const hashOf = (file) => createHash('sha256').update(readFileSync(file)).digest('hex')

async function passphrase(isNew) {
  const given = process.env.MAST_BACKUP_PASSPHRASE
  if (given === undefined && !process.stdin.isTTY)
    throw new Stop('The passphrase of the backup is wanted: set MAST_BACKUP_PASSPHRASE.')
  const asking =
    given === undefined ? createInterface({ input: process.stdin, output: process.stdout }) : null
  const text = given ?? (await asking.question('Passphrase of the backup (it is shown): '))
  asking?.close()
  if (isNew && text.length < LEAST_PASSPHRASE)
    throw new Stop(`The passphrase of a backup has at least ${LEAST_PASSPHRASE} characters.`)
  return text
}

/** Seals the server's key: scrypt (RFC 7914) and AES-256-GCM (NIST SP 800-38D). */
function sealKey(key, text) {
  const [salt, nonce] = [randomBytes(16), randomBytes(12)]
  const cipher = createCipheriv('aes-256-gcm', scryptSync(text, salt, 32, SCRYPT), nonce)
  const sealed = Buffer.concat([cipher.update(key, 'utf8'), cipher.final()])
  return Buffer.concat([salt, nonce, cipher.getAuthTag(), sealed]).toString('base64')
}

function openKey(sealed, text) {
  const bytes = Buffer.from(sealed, 'base64')
  const key = scryptSync(text, bytes.subarray(0, 16), 32, SCRYPT)
  const decipher = createDecipheriv('aes-256-gcm', key, bytes.subarray(16, 28))
  decipher.setAuthTag(bytes.subarray(28, 44))
  try {
    return Buffer.concat([decipher.update(bytes.subarray(44)), decipher.final()]).toString('utf8')
  } catch {
    throw new Stop('This is not the passphrase of the backup.')
  }
}

/**
 * Runs a program on a database. The password goes by the environment: everybody may read what a program was called
 * with.
 */
async function must(doing, name, url, args) {
  const address = new URL(url)
  // Whoever owns the tables without being a superuser sees what they say they ask for.
  const env = { PGPASSWORD: decodeURIComponent(address.password), PGOPTIONS: '-c mast.organisation=*' }
  address.password = ''
  const { code, output } = await databaseProgram(name, [...args, `--dbname=${address.href}`], env)
  if (code !== 0) throw new Stop(`${doing} failed: ${output.trim().split('\n').at(-1)}`, 3)
}

/** Asks a database as it is at one moment, whoever writes to it in the meantime. */
async function atOneMoment(url, ask) {
  const client = require('postgres')(url, {
    max: 1,
    onnotice: () => undefined,
    connection: { 'mast.organisation': '*' },
  })
  try {
    return await client.begin('isolation level repeatable read read only', ask)
  } finally {
    await client.end()
  }
}

/** Tables of our own, by how many rows each has. */
async function countRows(sql) {
  const tables = await sql`select tablename from pg_tables where schemaname = 'public' order by tablename`
  const counts = {}
  for (const { tablename } of tables) {
    const [{ count }] = await sql`select count(*)::int as count from ${sql(tablename)}`
    counts[tablename] = count
  }
  return counts
}

/** Writes the database into a file; answers how many rows of each table are in it. */
const dump = (url, file) =>
  atOneMoment(url, async (sql) => {
    const [{ snapshot }] = await sql`select pg_export_snapshot() as snapshot`
    await must('Writing the database', 'pg_dump', url, [
      '--format=custom',
      '--enable-row-security',
      `--snapshot=${snapshot}`,
      // Jobs that wait are put there anew at the next start.
      '--exclude-schema=pgboss',
      `--file=${file}`,
    ])
    return countRows(sql)
  })

/** All of it or nothing. */
const load = (url, file) =>
  must('Reading the database of the backup', 'pg_restore', url, [
    '--single-transaction',
    '--no-owner',
    '--no-privileges',
    file,
  ])

/** Opens the database of a backup beside everything else, and compares what it holds with the manifest. */
async function verify(folder, rows) {
  const database = await startThrowAway()
  try {
    await load(database.url, join(folder, 'database.dump'))
    const found = await atOneMoment(database.url, countRows)
    const wrong = Object.keys({ ...rows, ...found }).filter((table) => rows[table] !== found[table])
    if (wrong.length > 0) throw new Stop(`The backup does not hold all of ${wrong.join(', ')}.`, 3)
  } finally {
    await database.stop()
  }
}

async function inScratch(work) {
  const folder = mkdtempSync(join(tmpdir(), 'mast-backup-'))
  try {
    // The database's own user reads and writes here.
    if (process.getuid?.() === 0) await run('chown', ['postgres:', folder], { quiet: true })
    return await work(folder)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

async function prepare() {
  checkNode()
  await ensureDebian({ browser: false })
  await ensurePackages()
}

/** Writes all that would be lost in a fire into one file, and reads it back before it is called a backup. */
export async function backup(name) {
  if (!name) throw new Stop('Say into which file: ./mast backup FILE')
  const file = resolve(name)
  if (existsSync(file)) throw new Stop(`${file} is there already; nothing was written.`)
  await prepare()
  const text = await passphrase(true)
  const database = await startKeptDatabase('serve')
  try {
    await inScratch(async (folder) => {
      const rows = await dump(database.url, join(folder, 'database.dump'))
      if (rows.sites === undefined)
        throw new Stop('There is nothing to back up: Able Mast was never served here.')
      writeFileSync(join(folder, 'server.key.sealed'), sealKey(serverKey('serve'), text))
      const files = Object.fromEntries(PARTS.map((part) => [part, hashOf(join(folder, part))]))
      const manifest = { format: FORMAT, madeAt: new Date().toISOString(), rows, files }
      writeFileSync(join(folder, 'manifest.json'), `${JSON.stringify(manifest, null, 2)}\n`)
      await verify(folder, rows)
      const { code, output } = await run(
        'tar',
        ['-cf', `${file}.part`, '-C', folder, 'manifest.json', ...PARTS],
        { quiet: true },
      )
      if (code !== 0) throw new Stop(`${file} could not be written: ${output.trim()}`, 3)
      renameSync(`${file}.part`, file)
      say(`${file}: ${rows.sites} sites, ${rows.people} people, opened and counted.`)
      say('It is worth nothing without its passphrase.')
    })
  } finally {
    if (!database.wasRunning) await database.stop()
  }
  return 0
}

function readManifest(folder) {
  const manifest = JSON.parse(readFileSync(join(folder, 'manifest.json'), 'utf8'))
  if (manifest.format !== FORMAT)
    throw new Stop(`This backup has format ${manifest.format}; this Able Mast reads ${FORMAT}.`)
  for (const part of PARTS)
    if (!existsSync(join(folder, part)) || hashOf(join(folder, part)) !== manifest.files?.[part])
      throw new Stop(`${part} of the backup is not what was written.`, 3)
  return manifest
}

/** Brings a backup back, into a database where nobody and nothing is. */
export async function restore(name) {
  if (!name || !existsSync(name)) throw new Stop('Say from which file: ./mast restore FILE')
  await prepare()
  const text = await passphrase(false)
  const database = await startKeptDatabase('serve')
  try {
    if (database.wasRunning && !process.env.DATABASE_URL)
      throw new Stop('Able Mast is running: stop it first. Nothing was changed.')
    const there = await atOneMoment(database.url, countRows)
    if (Object.values(there).some((count) => count > 0))
      throw new Stop(
        'This database is not empty; nothing was changed. Give another by MAST_DATA or DATABASE_URL.',
      )
    await inScratch(async (folder) => {
      const { code } = await run('tar', ['-xf', resolve(name), '-C', folder, '--no-same-owner'], {
        quiet: true,
      })
      if (code !== 0) throw new Stop(`${name} is no backup.`)
      if (process.getuid?.() === 0) await run('chown', ['-R', 'postgres:', folder], { quiet: true })
      const manifest = readManifest(folder)
      const key = openKey(readFileSync(join(folder, 'server.key.sealed'), 'utf8'), text)
      if (hasOtherKey('serve', key))
        throw new Stop(
          'The key of another installation lies in this folder of data; nothing was changed. Set MAST_DATA.',
        )
      keepServerKey('serve', key)
      await load(database.url, join(folder, 'database.dump'))
      if (process.env.MAST_SERVER_KEY && !key.split('\n').includes(process.env.MAST_SERVER_KEY))
        say(
          'MAST_SERVER_KEY is another key than those of the backup: give the first of them in MAST_OLDER_KEYS.',
        )
      const { madeAt, rows } = manifest
      say(`Restored, as it was ${madeAt.slice(0, 16)}Z: ${rows.sites} sites, ${rows.people} people.`)
      say('Start it by ./mast serve')
    })
  } finally {
    if (!database.wasRunning) await database.stop()
  }
  return 0
}
