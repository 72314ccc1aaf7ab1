// Asks, from within a namespace of the twin, who answers where.
import { fileURLToPath } from 'node:url'
import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'

import { createInterface } from 'node:readline'
import type { Plan } from '#core/schema'
import { run } from './shell'

const AGENT = fileURLToPath(new URL('agent.pl', import.meta.url))
const PROBE_SECONDS = 60

export interface Target {
  readonly ip: string
  readonly dial?: Readonly<Record<string, number>>
}

/** Who answered at each port that is tried, by namespace. */
export interface Answers {
  readonly tcp: readonly (string | null)[]
  readonly udp: readonly (string | null)[]
}

export interface Ports {
  readonly tcp: readonly number[]
  readonly udp: readonly number[]
}

/** First and last port of each service of a plan, and one that no service names. */
export function portsOf(plan: Plan): Ports {
  const of = (proto: 'tcp' | 'udp') => {
    const named = plan.services.flatMap((service) =>
      service.entries.filter((e) => e.proto === proto).flatMap((e) => [e.from, e.to]),
    )
    const handed = plan.forwards.filter((f) => f.proto === proto).map((f) => f.toPort)
    return [...new Set([...handed, ...named.filter((p) => p !== 67 && p !== 68), 7777])].slice(0, 9)
  }
  return { tcp: of('tcp'), udp: of('udp') }
}

/** The agent of one namespace. It remembers what it saw until it is told that the twin has changed. */
export class Prober {
  private child: ChildProcessWithoutNullStreams | null = null
  private waiting: ((line: string) => void)[] = []
  private own = ''
  private readonly seen = new Map<string, Promise<unknown>>()
  constructor(
    private readonly ns: string,
    private readonly ports: Ports,
    private readonly ipv6: boolean,
    /** How many times as long as usual an answer is waited for. */
    private readonly patience: number,
  ) {}
  /** Ready to answer for these addresses of its own. */
  async begin(own: string): Promise<void> {
    if (this.child && this.own === own) return
    this.stop()
    this.own = own
    this.child = spawn('ip', [
      'netns',
      'exec',
      this.ns,
      'perl',
      AGENT,
      this.ports.tcp.join(','),
      this.ports.udp.join(','),
      this.ipv6 ? '1' : '0',
      this.ns,
      String(this.patience),
    ])
    const waiting: ((line: string) => void)[] = (this.waiting = [])
    createInterface({ input: this.child.stdout }).on('line', (line) => waiting.shift()?.(line))
    await this.next()
  }
  private next(): Promise<string> {
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => reject(new Error('a probe did not answer')), PROBE_SECONDS * 1000)
      this.waiting.push((line) => {
        clearTimeout(timer)
        resolve(line)
      })
    })
  }
  private once<T>(what: string, probe: () => Promise<T>): Promise<T> {
    const known = this.seen.get(what) as Promise<T> | undefined
    if (known) return known
    const answer = probe()
    this.seen.set(what, answer)
    return answer
  }
  /** Namespaces that answer at each port of each target; null for nobody. */
  async ask(targets: readonly Target[]): Promise<Answers[]> {
    if (targets.length === 0) return []
    const words = targets
      .map(({ ip, dial }) =>
        dial
          ? `${ip}=${Object.entries(dial)
              .map(([port, by]) => `${port.replace(' ', '')}:${by}`)
              .join(',')}`
          : ip,
      )
      .join(' ')
    const names = (text = '') =>
      text === '' ? [] : text.split(',').map((name) => (name === '0' ? null : name))
    const answer = await this.once(words, () => {
      this.child?.stdin.write(`${words}\n`)
      return this.next()
    })
    return answer
      .split(' ')
      .map((word) => ({ tcp: names(word.split('/')[0]), udp: names(word.split('/')[1]) }))
  }
  async pings(targets: readonly string[]): Promise<Set<string>> {
    if (targets.length === 0) return new Set()
    return this.once(`ping ${targets.join(' ')}`, async () => {
      const { stdout } = await run('ip', [
        'netns',
        'exec',
        this.ns,
        'fping',
        ...(targets[0]?.includes(':') ? ['-6'] : []),
        '-a',
        '-r',
        String(this.patience),
        '-t',
        String(400 * this.patience),
        '-i',
        '1',
        ...targets,
      ]).catch((e: { stdout?: string }) => ({ stdout: e.stdout ?? '' }))
      return new Set(stdout.split('\n').map((l) => l.trim()))
    })
  }
  forget(): void {
    this.seen.clear()
  }
  stop(): void {
    this.child?.kill('SIGKILL')
  }
}
