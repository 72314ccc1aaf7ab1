// Question: what must a plan have before anything can be said of it?
// Method: somebody who is meant to reach something, and a gateway and a network between them.
// Source: the plan's own semantics; no figures used.
import { isHost } from '#core/queries'
import type { Plan } from '#core/schema'

export type Lack = 'gateway' | 'networks' | 'hosts' | 'intents'

/** What a plan has none of, in the order in which it is usually made. */
export function lacksOf({ devices, networks, intents }: Plan): Lack[] {
  const has: Readonly<Record<Lack, boolean>> = {
    gateway: devices.some(({ kind }) => kind === 'gateway'),
    networks: networks.length > 0,
    hosts: devices.some((device) => isHost(device) && device.homeNetworkId !== null),
    intents: intents.length > 0,
  }
  return (Object.keys(has) as Lack[]).filter((lack) => !has[lack])
}
