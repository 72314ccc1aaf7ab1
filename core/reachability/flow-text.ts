// Question: which flow does somebody mean who types one?
// Method: a protocol with its port, and two addresses before it where they are not those of another flow.
import { parseIpv4, type Ipv4 } from '#core/address'
import { ok, problem, refuse, type Result } from '#core/util'
import type { FlowRef } from './cell'

/** A flow as somebody types it: addresses where they are told, else those of another flow. */
export interface FlowText {
  readonly from: Ipv4 | null
  readonly to: Ipv4 | null
  readonly proto: FlowRef['proto']
  readonly port: number
}

/**
 * Reads `tcp 8080`, `icmp`, or `10.61.1.104 to 198.51.100.7 udp 53`.
 * Errors: not-ipv4 and its kin for an address; not-a-flow for anything else.
 */
export function readFlow(text: string, place = ''): Result<FlowText> {
  const [whole, from, to, service = '', port] =
    /^(?:(\S+) to (\S+) )?(tcp|udp|icmp)(?: (\d{1,5}))?$/i.exec(text.trim().replaceAll(/\s+/g, ' ')) ?? []
  const proto = service.toLowerCase() as FlowText['proto']
  const number = Number(port ?? 0)
  if (whole === undefined || number > 65_535 || (proto === 'icmp') !== (port === undefined))
    return refuse(problem('not-a-flow', place, { text }))
  if (from === undefined || to === undefined) return ok({ from: null, to: null, proto, port: number })
  const [source, target] = [parseIpv4(from, place), parseIpv4(to, place)]
  if (!source.ok || !target.ok)
    return refuse(...[source, target].flatMap((read) => (read.ok ? [] : read.problems)))
  return ok({ from: source.value, to: target.value, proto, port: number })
}
