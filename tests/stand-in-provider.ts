import { createHash, randomUUID } from 'node:crypto'
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import { exportJWK, generateKeyPair, SignJWT, type CryptoKey, type JWK } from 'jose'

// A provider of OpenID Connect Core 1.0 for tests: it asks nobody for a password, and lies on request.

/** How an answer is not as it should be. */
export type Lie = 'issuer' | 'audience' | 'nonce' | 'expired' | 'key' | 'none' | 'refused'

interface Asked {
  readonly nonce: string
  readonly challenge: string
  readonly returnTo: string
  readonly subject: string
}

const CLIENT = 'able-mast'
const CLIENT_SECRET = 'a-secret-between:the two'
/** RFC 6749, 2.3.1: both are form-encoded before they are joined. */
function isClient(authorization = ''): boolean {
  const told = Buffer.from(authorization.replace(/^Basic /, ''), 'base64')
    .toString()
    .split(':')
  const [client, secret] = told.map((text) => decodeURIComponent(text.replaceAll('+', ' ')))
  return client === CLIENT && secret === CLIENT_SECRET
}

export const providerEnv = (issuer: string, publicUrl: string): Record<string, string> => ({
  MAST_PUBLIC_URL: publicUrl,
  MAST_OIDC_ISSUER: issuer,
  MAST_OIDC_CLIENT_ID: CLIENT,
  MAST_OIDC_CLIENT_SECRET: CLIENT_SECRET,
  MAST_OIDC_NAME: 'Harbour Login',
})

async function bodyOf(request: IncomingMessage): Promise<URLSearchParams> {
  const parts: Buffer[] = []
  for await (const part of request) parts.push(part as Buffer)
  return new URLSearchParams(Buffer.concat(parts).toString())
}

const json = (response: ServerResponse, value: unknown, status = 200): void =>
  void response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value))

const page = (go: URL): string =>
  `<!doctype html><title>Harbour Login</title><a href="${go.href.replaceAll('&', '&amp;')}">Continue</a>`

/** RFC 7636, 4.6. */
const challengeOf = (verifier: string): string => createHash('sha256').update(verifier).digest('base64url')

class StandInProvider {
  /** Who is signed in there; whom its page lets through at a click. */
  subject = 'nobody'
  lie: Lie | null = null
  private readonly codes = new Map<string, Asked>()
  private readonly server: Server

  constructor(
    private readonly issuer: string,
    private readonly ownKey: CryptoKey,
    private readonly foreignKey: CryptoKey,
    publicKey: JWK,
  ) {
    this.server = createServer((request, response) => {
      const url = new URL(request.url ?? '/', issuer)
      const answers: Readonly<Record<string, () => unknown>> = {
        '/.well-known/openid-configuration': () => json(response, this.metadata()),
        '/keys': () => json(response, { keys: [publicKey] }),
        '/authorize': () => this.authorize(url.searchParams, response),
        '/token': () => this.token(request, response),
      }
      const answer = answers[url.pathname]
      if (answer) answer()
      else response.writeHead(404).end()
    })
  }

  listen = (port: number): Promise<void> => new Promise((done) => this.server.listen(port, '127.0.0.1', done))

  stop(): Promise<void> {
    this.server.closeAllConnections()
    return new Promise((done) => this.server.close(() => done()))
  }

  /** OpenID Connect Discovery 1.0, 3. */
  private metadata() {
    const { issuer } = this
    return {
      issuer,
      authorization_endpoint: `${issuer}/authorize`,
      token_endpoint: `${issuer}/token`,
      jwks_uri: `${issuer}/keys`,
      response_types_supported: ['code'],
      subject_types_supported: ['public'],
      id_token_signing_alg_values_supported: ['RS256'],
      authorization_response_iss_parameter_supported: true,
    }
  }

  private authorize(asked: URLSearchParams, response: ServerResponse): void {
    const wanted = (name: string): string => asked.get(name) ?? ''
    const code = randomUUID()
    this.codes.set(code, {
      nonce: wanted('nonce'),
      challenge: wanted('code_challenge'),
      returnTo: wanted('redirect_uri'),
      subject: this.subject,
    })
    const go = new URL(wanted('redirect_uri'))
    go.searchParams.set('state', wanted('state'))
    go.searchParams.set('iss', this.issuer)
    if (this.lie === 'refused') go.searchParams.set('error', 'access_denied')
    else go.searchParams.set('code', code)
    response.writeHead(200, { 'content-type': 'text/html' }).end(page(go))
  }

  private async token(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await bodyOf(request)
    const asked = this.codes.get(body.get('code') ?? '')
    this.codes.delete(body.get('code') ?? '')
    const isRight =
      asked !== undefined &&
      isClient(request.headers.authorization) &&
      body.get('redirect_uri') === asked.returnTo &&
      challengeOf(body.get('code_verifier') ?? '') === asked.challenge
    if (!isRight) return json(response, { error: 'invalid_grant' }, 400)
    const signed = this.lie === 'none' ? {} : { id_token: await this.idToken(asked) }
    json(response, { access_token: randomUUID(), token_type: 'Bearer', expires_in: 60, ...signed })
  }

  private idToken({ nonce, subject }: Asked): Promise<string> {
    const { lie } = this
    const at = Math.floor(Date.now() / 1000) - (lie === 'expired' ? 7200 : 0)
    return new SignJWT({ nonce: lie === 'nonce' ? 'another' : nonce })
      .setProtectedHeader({ alg: 'RS256', kid: 'one' })
      .setIssuer(lie === 'issuer' ? 'http://127.0.0.1:1' : this.issuer)
      .setAudience(lie === 'audience' ? 'another-client' : CLIENT)
      .setSubject(subject)
      .setIssuedAt(at)
      .setExpirationTime(at + 600)
      .sign(lie === 'key' ? this.foreignKey : this.ownKey)
  }
}

export async function startStandInProvider(
  port: number,
): Promise<StandInProvider & { readonly url: string }> {
  const [own, foreign] = [await generateKeyPair('RS256'), await generateKeyPair('RS256')]
  const url = `http://127.0.0.1:${port}`
  const publicKey = { ...(await exportJWK(own.publicKey)), kid: 'one', alg: 'RS256' }
  const made = new StandInProvider(url, own.privateKey, foreign.privateKey, publicKey)
  await made.listen(port)
  return Object.assign(made, { url })
}
