import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeSerial } from '#core/queries'
import { client, codesOf, signedIn, startApp, type App, type Client, type Role } from './harness'

// Who may do what, written by hand from what the roles mean, and not from the server's own table:
// - the administrator adds and removes people, deletes sites, and does whatever the planner does;
// - the planner edits the plan, restores it, makes sites and holds the private keys;
// - the rigger sees the plan, adopts devices, works in the lab, ticks off what is done and records results;
// - the keeper reads, exports and hands over;
// - nobody does anything without signing in.

type Deed = readonly [what: string, method: string, path: string, who: string]

const ON_SITE: readonly Deed[] = [
  ['see the plan', 'GET', 'plan', 'planner rigger keeper'],
  ['edit the plan', 'PATCH', 'plan', 'planner'],
  ['see how it was', 'GET', 'revisions', 'planner rigger keeper'],
  ['see one revision', 'GET', 'revisions/1', 'planner rigger keeper'],
  ['restore a revision', 'POST', 'restore', 'planner'],
  ['see the roster', 'GET', 'roster', 'planner rigger keeper'],
  ['claim a device', 'POST', 'claims', 'planner rigger'],
  ['claim devices by a list', 'POST', 'claim-list', 'planner rigger'],
  ['let a device go', 'DELETE', 'claims/GH-0000-0000', 'planner rigger'],
  ['make a secret for a device', 'POST', 'claims/GH-0000-0000/secret', 'planner rigger'],
  ['revoke what a device shows', 'DELETE', 'claims/GH-0000-0000/secret', 'planner rigger'],
  ['tell of a lease', 'POST', 'leases', 'planner rigger'],
  ['put another device in its place', 'POST', 'claims/GH-0000-0000/replace', 'planner rigger'],
  ['see the lab', 'GET', 'lab', 'planner rigger'],
  ['put simulated devices on the shelf', 'POST', 'lab/shelf', 'planner rigger'],
  ['switch the lab', 'POST', 'lab/power', 'planner rigger'],
  ['turn a simulated antenna', 'POST', 'lab/aim', 'planner rigger'],
  ['see what radios read', 'GET', 'levels', 'planner rigger keeper'],
  ['report what a radio reads', 'POST', 'levels', 'planner rigger'],
  ['see what is ticked off', 'GET', 'ticks', 'planner rigger keeper'],
  ['tick something off', 'POST', 'ticks', 'planner rigger'],
  ['see what became of steps', 'GET', 'steps', 'planner rigger keeper'],
  ['record a step', 'POST', 'steps', 'planner rigger'],
  ['see photographs of steps', 'GET', 'photos', 'planner rigger keeper'],
  ['see one photograph', 'GET', 'photos/1', 'planner rigger keeper'],
  ['keep a photograph', 'POST', 'photos', 'planner rigger'],
  ['remove a photograph', 'DELETE', 'photos/1', 'planner rigger'],
  ['see which keys there are', 'GET', 'keys', 'planner rigger keeper'],
  ['make keys', 'POST', 'keys', 'planner'],
  ['see a private key', 'POST', 'keys/show', 'planner'],
  ['take a key over', 'POST', 'keys/take', 'planner'],
  ['see which passphrases there are', 'GET', 'passphrases', 'planner rigger keeper'],
  ['set a passphrase', 'POST', 'passphrases', 'planner'],
  ['see a passphrase', 'POST', 'passphrases/show', 'planner rigger keeper'],
  ['see the proof', 'GET', 'proof', 'planner rigger keeper'],
  ['let the lab answer tests', 'POST', 'proof/ask-lab', 'planner rigger'],
  ['record results', 'POST', 'proof/results', 'planner rigger'],
  ['see runs', 'GET', 'runs', 'planner rigger keeper'],
  ['start a run', 'POST', 'runs', 'planner rigger'],
  ['see one run', 'GET', 'runs/1', 'planner rigger keeper'],
  ['end a run', 'DELETE', 'runs/1', 'planner rigger'],
  ['make a site like it', 'POST', 'copy', 'planner'],
  ['archive it', 'POST', 'archive', 'planner'],
  ['delete it', 'POST', 'delete', 'administrator'],
  ['give it away', 'POST', 'transfer', 'administrator'],
  ['keep it as a template', 'POST', 'template', 'planner'],
  ['export the site', 'GET', 'export/site.json', 'planner rigger keeper'],
]
const ELSEWHERE: readonly Deed[] = [
  ['see the organisations', 'GET', '/api/organisations', 'administrator'],
  ['add an organisation', 'POST', '/api/organisations', 'administrator'],
  ['remove an organisation', 'DELETE', '/api/organisations/99999', 'administrator'],
  ['rename the organisation', 'PATCH', '/api/organisation', 'administrator'],
  ['take a site over', 'POST', '/api/transfers', 'administrator'],
  ['see the sites', 'GET', '/api/sites', 'planner rigger keeper'],
  ['see the fleet', 'GET', '/api/fleet', 'planner rigger keeper'],
  ['make a site', 'POST', '/api/sites', 'planner'],
  ['see the templates', 'GET', '/api/templates', 'planner rigger keeper'],
  ['make a site from a template', 'POST', '/api/templates/1/site', 'planner'],
  ['remove a template', 'DELETE', '/api/templates/1', 'planner'],
  ['see who they are', 'GET', '/api/me', 'planner rigger keeper'],
  ['change their password', 'POST', '/api/me/password', 'planner rigger keeper'],
  ['see where they are signed in', 'GET', '/api/me/sessions', 'planner rigger keeper'],
  ['sign out one of their browsers', 'DELETE', '/api/me/sessions/none', 'planner rigger keeper'],
  ['sign out their other browsers', 'DELETE', '/api/me/sessions', 'planner rigger keeper'],
  ['see their API tokens', 'GET', '/api/me/tokens', 'planner rigger keeper'],
  ['make an API token', 'POST', '/api/me/tokens', 'planner rigger keeper'],
  ['end an API token', 'DELETE', '/api/me/tokens/99999', 'planner rigger keeper'],
  ['see their second factors', 'GET', '/api/me/factors', 'planner rigger keeper'],
  ['set up an authenticator', 'POST', '/api/me/totp', 'planner rigger keeper'],
  ['confirm it', 'POST', '/api/me/totp/confirm', 'planner rigger keeper'],
  ['remove it', 'POST', '/api/me/totp/remove', 'planner rigger keeper'],
  ['make recovery codes', 'POST', '/api/me/recovery-codes', 'planner rigger keeper'],
  ['begin a passkey', 'POST', '/api/me/passkeys/options', 'planner rigger keeper'],
  ['add a passkey', 'POST', '/api/me/passkeys', 'planner rigger keeper'],
  ['remove a passkey', 'POST', '/api/me/passkeys/none/remove', 'planner rigger keeper'],
  ['see their single sign-on', 'GET', '/api/me/identity', 'planner rigger keeper'],
  ['connect single sign-on', 'POST', '/api/me/identity', 'planner rigger keeper'],
  ['come back from the provider', 'POST', '/api/me/identity/provider-answer', 'planner rigger keeper'],
  ['remove single sign-on', 'POST', '/api/me/identity/remove', 'planner rigger keeper'],
  ['clear the second factors of a person', 'POST', '/api/people/99999/clear-factors', 'administrator'],
  ['see the people', 'GET', '/api/people', 'administrator'],
  ['add a person', 'POST', '/api/people', 'administrator'],
  ['change what a person may', 'PATCH', '/api/people/99999', 'administrator'],
  ['remove a person', 'DELETE', '/api/people/99999', 'administrator'],
  ['make a link for a person', 'POST', '/api/people/99999/link', 'administrator'],
  ['send a link by mail', 'POST', '/api/people/99999/link-mail', 'administrator'],
  ['see the webhooks', 'GET', '/api/webhooks', 'administrator'],
  ['add a webhook', 'POST', '/api/webhooks', 'administrator'],
  ['pause a webhook', 'PATCH', '/api/webhooks/99999', 'administrator'],
  ['remove a webhook', 'DELETE', '/api/webhooks/99999', 'administrator'],
  ['try a webhook', 'POST', '/api/webhooks/99999/try', 'administrator'],
  ['read the audit', 'GET', '/api/audit', 'administrator'],
  ['check the audit', 'GET', '/api/audit/check', 'administrator'],
  ['export the audit', 'GET', '/api/audit/export', 'administrator'],
  ['see what was deleted', 'GET', '/api/deleted-sites', 'administrator'],
  ['restore a deleted site', 'POST', '/api/deleted-sites/none/restore', 'administrator'],
  ['delete a site for good', 'DELETE', '/api/deleted-sites/none', 'administrator'],
]
const SITES = ['gullhaven', 'gullhaven-clean']
const DEEDS: readonly Deed[] = [
  ...ELSEWHERE,
  ...SITES.flatMap((site) =>
    ON_SITE.map(([what, method, path, who]): Deed => [
      `${what} of ${site}`,
      method,
      `/api/sites/${site}/${path}`,
      who,
    ]),
  ),
]
const ROLES: readonly Role[] = ['administrator', 'planner', 'rigger', 'keeper']
/** Whether a role is among those named; whatever the planner may, the administrator may. */
const isAmong = (who: string, role: Role) =>
  who.split(' ').includes(role) || (role === 'administrator' && who.split(' ').includes('planner'))
// A body that no route can use: whoever may call gets no further than its fields.
const bodyOf = (method: string) => (method === 'GET' || method === 'DELETE' ? undefined : { of: 'no route' })

let app: App
const clients = {} as Record<Role | 'nobody', Client>
beforeAll(async () => {
  app = await startApp()
  clients.nobody = client(app)
  for (const role of ROLES) clients[role] = await signedIn(app, role)
})
afterAll(async () => {
  await app.stop()
})

describe('who may', () => {
  it.each(DEEDS)('%s', async (_, method, path, who) => {
    const answers: Record<string, string> = {}
    for (const role of ROLES) {
      const reply = await clients[role](method, path, bodyOf(method))
      expect(reply.status, `${role}: ${reply.text.slice(0, 200)}`).toBeLessThan(500)
      const isRefused = [401, 403].includes(reply.status)
      if (isRefused) {
        expect(reply.status).toBe(403)
        expect(['other-role', 'operator-needed']).toContain(codesOf(reply)[0])
      }
      answers[role] = isRefused ? 'may not' : 'may'
    }
    expect(answers).toEqual(
      Object.fromEntries(ROLES.map((role) => [role, isAmong(who, role) ? 'may' : 'may not'])),
    )
    const signedOut = await clients.nobody(method, path, bodyOf(method))
    expect([signedOut.status, codesOf(signedOut)]).toEqual([401, ['sign-in-needed']])
  })

  it('and every one of them is in this table: a role that none is given does nothing', () => {
    expect(new Set(DEEDS.flatMap(([, , , who]) => who.split(' ')))).toEqual(new Set(ROLES))
  })
})

describe('what is of one site', () => {
  const serial = makeSerial('GH', 'ELSEWH1')
  const claimsOf = async (site: string) =>
    (
      await clients.planner<{ rows: { serial: string | null }[] }>('GET', `/api/sites/${site}/roster`)
    ).body.rows.map((row) => row.serial)

  it('a device that it has claimed cannot be let go by another', async () => {
    const claim = { serial, deviceId: 'boat-ap' }
    const made = await clients.rigger('POST', '/api/sites/gullhaven/claims', claim)
    expect(made.status, made.text).toBeLessThan(300)
    const elsewhere = await clients.planner('DELETE', `/api/sites/gullhaven-clean/claims/${serial}`)
    expect(codesOf(elsewhere)).toEqual(['no-such-claim'])
    expect(await claimsOf('gullhaven')).toContain(serial)
    const own = await clients.planner('DELETE', `/api/sites/gullhaven/claims/${serial}`)
    expect(own.status).toBeLessThan(300)
    expect(await claimsOf('gullhaven')).not.toContain(serial)
  })

  it('a run of it is not found by another', async () => {
    const order = { kind: 'pairs', things: ['fibre', '5g'], revision: 1 }
    const made = await clients.rigger<{ id: number }[]>('POST', '/api/sites/gullhaven/runs', order)
    expect(made.status, made.text).toBeLessThan(300)
    const at = (site: string) => `/api/sites/${site}/runs/${made.body[0]?.id}`
    expect((await clients.keeper('GET', at('gullhaven'))).status).toBe(200)
    expect(codesOf(await clients.keeper('GET', at('gullhaven-clean')))).toEqual(['no-such-run'])
    expect(codesOf(await clients.rigger('DELETE', at('gullhaven-clean')))).toEqual(['no-such-run'])
    expect((await clients.keeper('GET', at('gullhaven'))).status).toBe(200)
  })
})
