// Question: how are the texts of an older plan made printable lines?
// Method: what cannot be printed becomes a space; a domain that is none is left out, as no DHCP server took it.
// Source: Unicode 15, RFC 1123 section 2.1; frozen, as all steps between versions are.
import { each, within, type Fields } from './document'

const UNPRINTABLE = /[\p{Cc}\p{Cs}\p{Zl}\p{Zp}\p{Bidi_Control}]/gu
const LABEL = '[A-Za-z0-9]([A-Za-z0-9-]{0,61}[A-Za-z0-9])?'
const DOMAIN = new RegExp(`^${LABEL}(\\.${LABEL})*$`)

function printable(value: unknown): unknown {
  if (typeof value === 'string') return value.replace(UNPRINTABLE, ' ')
  if (Array.isArray(value)) return value.map(printable)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, printable(item)]))
}

const domainOf = (options: Fields): Fields =>
  typeof options['domain'] === 'string' && DOMAIN.test(options['domain'])
    ? options
    : { ...options, domain: '' }

export function withPrintableTexts(plan: Fields): Fields {
  const made = printable(plan) as Fields
  return {
    ...made,
    networks: each(made['networks'], (network) => ({
      ...network,
      options: within(network['options'], domainOf),
    })),
  }
}
