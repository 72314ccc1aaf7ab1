import type { FindingWords, MendWords } from './words'

// What the findings of VLANs and loops say, and the buttons of their mends.

export const LAYER2_WORDS = {
  E01: (values) => ({
    title: `VLAN ${values.vlan} has no network`,
    what: `${values.device} port ${values.port} carries it.`,
    why: 'Frames on it go nowhere, or somewhere nobody planned.',
  }),
  E02: (values) => ({
    title: `${values.network} ${values.vlan} stops short`,
    what: `${values.device} port ${values.port} does not carry it.`,
    why: `Without it: ${values.affected}.`,
  }),
  E03: (values) => ({
    title: 'Native VLANs differ across a cable',
    what:
      `${values.device} ${values.port}: ${values.native}; ` +
      `${values.otherDevice} ${values.otherPort}: ${values.otherNative}.`,
    why: 'Untagged frames change network on the way.',
  }),
  E04: (values) => ({
    title: 'Unmanaged switch passes tags as they are',
    what: `${values.switch}, behind ${values.device} port ${values.port}.`,
    why: `Its own sockets land in ${values.lands}.`,
  }),
  E05: (values) => ({
    title: 'A loop that nothing breaks',
    what: `${values.devices} are joined in a ring, and none of them speaks spanning tree.`,
    why: 'One broadcast circles for ever and the network stands still.',
  }),
  E11: (values) => ({
    title: `${values.hosts} land in ${values.landed}`,
    what: `${values.device} port ${values.port} puts them there; they belong in ${values.wanted}.`,
    why: 'They get addresses of the wrong network.',
  }),
  E13: (values) => ({
    title: `${values.device} port ${values.port} carries more than is needed`,
    what: `VLAN ${values.vlans}: nobody beyond it wants it.`,
    why: 'Its broadcasts travel there all the same, and a wrong plug lands in it.',
  }),
} satisfies Partial<FindingWords>

export const LAYER2_MENDS = {
  tag: (values) => `Tag ${values.vlan} on port ${values.port}`,
  untag: (values) => `Take ${values.vlan} off port ${values.port}`,
  access: (values) => `Set port ${values.port} to access ${values.vlan}`,
  prune: (values) => `Take ${values.vlans} off port ${values.port}`,
} satisfies Partial<MendWords>
