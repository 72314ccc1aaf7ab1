import { formatPrefix4, parsePrefix4 } from '#core/address'
import { parseCountry } from '#core/format'
import type { Plan } from '#core/schema'
import { orNull } from '#core/util'
import { name, reasons } from '~/ui/columns'
import type { TypedField } from '~/ui/typed-fields'

type TextOfSite = 'name' | 'supernet' | 'country'
export type PutSite = (words: string, key: TextOfSite, value: string) => void

/** What the site is called, the block its subnets are taken from, and the country whose radio rules hold. */
export const siteFields = (site: Plan['site'], put: PutSite): TypedField[] => [
  {
    key: 'site-name',
    name: 'Site name',
    read: () => site.name,
    check: (text) => reasons(name(text)),
    write: (text) => put(`site named ${text}`, 'name', text),
  },
  {
    key: 'supernet',
    name: 'Address block',
    mono: true,
    hint: 'subnets are proposed within it; those there are stay',
    read: () => site.supernet,
    check: (text) => reasons(parsePrefix4(text)),
    write: (text) => {
      const block = orNull(parsePrefix4(text))
      if (block) put(`address block ${text}`, 'supernet', formatPrefix4(block))
    },
  },
  {
    key: 'country',
    name: 'Country of the radios',
    mono: true,
    hint: 'two letters (ISO 3166)',
    read: () => site.country,
    check: (text) => reasons(parseCountry(text)),
    write: (text) => {
      const code = orNull(parseCountry(text))
      if (code !== null) put(`country ${code || 'not set'}`, 'country', code)
    },
  },
]
