// What a mend writes into the plan, for whoever reads the rules.

export const refusalNote = (from: string, to: string, byIpv6: boolean): string =>
  `${from} does not reach ${to}${byIpv6 ? ' by IPv6' : ''}`
