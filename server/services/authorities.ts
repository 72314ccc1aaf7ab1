import {
  certificateText,
  keyText,
  newAuthority,
  readCertificate,
  readKey,
  type Signer,
} from '#server/platform/certificates'
import { database } from '#server/platform/database'
import { log } from '#server/platform/log'
import { openSealed, seal } from '#server/platform/secrets'
import { asServer } from '#server/platform/scope'
import * as repo from '#server/repo/devices'

// Who signs what devices are told. Their keys are sealed, and made where there are none.

const NAMES: Readonly<Record<repo.Purpose, string>> = {
  owner: 'Able Mast owner',
  'lab-maker': 'Maker of simulated devices',
}

async function made(purpose: repo.Purpose) {
  const { certificate, key } = await newAuthority(NAMES[purpose])
  return { purpose, certificate: certificateText(certificate), sealed: seal(await keyText(key)) }
}

async function read(purpose: repo.Purpose): Promise<Signer> {
  const db = database()
  if (!(await repo.authorityFor(db, purpose))) await repo.keepAuthority(db, await made(purpose))
  const kept = await repo.authorityFor(db, purpose)
  const text = kept && openSealed(kept.sealed)
  if (kept && text !== null)
    return { certificate: readCertificate(kept.certificate), key: await readKey(text) }
  // Its key may come back with the server's: until then somebody new signs, and nothing of the old one is lost.
  log.warn({ purpose }, 'who signs for devices is sealed under a key that is not here')
  return newAuthority(NAMES[purpose])
}

const known = new Map<repo.Purpose, Promise<Signer>>()

/** Who signs for a purpose: the same for all processes of an installation. */
export function authority(purpose: repo.Purpose): Promise<Signer> {
  const found = known.get(purpose) ?? asServer(() => read(purpose))
  known.set(purpose, found)
  // Whoever comes next tries again.
  found.catch(() => known.delete(purpose))
  return found
}
