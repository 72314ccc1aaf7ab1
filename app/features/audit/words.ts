import type { AuditCheck, AuditAction } from '#contracts/audit'
import { count } from '~/wording/count'

/** What each deed is called. */
export const ACTION_WORDS: Readonly<Record<AuditAction, string>> = {
  'signed-in': 'signed in',
  'sign-in-refused': 'did not give the right password',
  'code-refused': 'gave the right password and a wrong code',
  'signed-out': 'signed out',
  'sessions-ended': 'signed out other browsers',
  joined: 'joined by a link',
  'password-changed': 'changed the password',
  'identity-connected': 'connected single sign-on',
  'identity-removed': 'removed single sign-on',
  'factor-added': 'added a second factor',
  'factor-removed': 'removed a second factor',
  'recovery-codes-made': 'made new recovery codes',
  'token-made': 'made an API token',
  'token-ended': 'ended an API token',
  'factors-cleared': 'cleared the second factors of a person',
  'person-added': 'added a person',
  'person-changed': 'changed what a person may',
  'person-removed': 'removed a person',
  'link-made': 'made a link for a person',
  'link-mailed': 'sent a link by mail',
  'organisation-added': 'added an organisation',
  'organisation-removed': 'removed an organisation',
  'organisation-renamed': 'renamed the organisation',
  'organisation-changed': 'changed the organisation',
  'organisation-strict': 'changed the organisation: a second factor is a must',
  'webhook-added': 'added a webhook',
  'webhook-paused': 'paused a webhook',
  'webhook-resumed': 'resumed a webhook',
  'webhook-removed': 'removed a webhook',
  'site-offered': 'made a code to transfer a site',
  'site-taken': 'took a site over from another organisation',
  'site-made': 'made a site',
  'site-archived': 'archived a site',
  'site-unarchived': 'brought a site back from the archive',
  'site-deleted': 'deleted a site',
  'site-restored': 'restored a deleted site',
  'site-purged': 'deleted a site for good',
  'plan-restored': 'restored a revision',
  'key-made': 'made keys',
  'key-taken': 'took a private key over',
  'key-shown': 'was shown a private key',
  'passphrase-set': 'set a passphrase',
  'passphrase-shown': 'was shown a passphrase',
  'device-claimed': 'claimed a device',
  'list-claimed': 'claimed devices by a list',
  'device-released': 'released a device',
  'device-replaced': 'replaced a device',
  'device-secret-made': 'made a one-time secret for a device',
  'device-revoked': 'revoked the key of a device',
  'lab-switched': 'switched a device in the lab',
  exported: 'exported a file',
  'audit-exported': 'exported the audit',
}

/** How much of the newest hash is enough to tell it from others. */
const SHORT_HASH = 16

export function checkWords({ count: lines, brokenAt, newest }: AuditCheck): string {
  if (brokenAt !== null)
    return `Line ${brokenAt} is not as it was written, or lines before it are missing. Compare it with a backup.`
  if (lines === 0) return 'There is no line yet.'
  return (
    `${count(lines, 'line')}, each as it was written and none missing between them. ` +
    `The newest ends the chain as ${newest.slice(0, SHORT_HASH)}: noted elsewhere, it shows that none was cut off.`
  )
}
