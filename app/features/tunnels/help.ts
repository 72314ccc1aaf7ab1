import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'tunnels',
  lines: [
    'Inside: the gateway’s address in the tunnel and the length of its subnet.',
    'Has: addresses that are the peer’s; they are taken from it and sent to it, and nobody else’s.',
    'Far end allows: what of ours the peer’s own file allows. A rule must let it through as well.',
    'We dial: host and port of a peer that this gateway calls; otherwise the peer calls us.',
    'Keys: a pair can be made here. The private one is sealed, and shown only when asked for; that is noted.',
    'Change its key: old and new are both let in until a day; a script on the gateway follows the one in use.',
    'Known to peers as: a network that peers call by another prefix, address for address, ' +
      'where both ends have the same.',
    'Below is the configuration file of one end; without its private key it says where that belongs.',
  ],
})
