// Question: what does a plan of an older version say of Wi-Fi and radio links in the words of today?
// Method: the frozen steps of `upgrade.ts` that are about the air.
import { each, within, type Fields } from './document'

const END_11 = { antennaM: null, powerDbm: null, gainDbi: null, feederDb: null }
const RADIO_11 = {
  mhz: null,
  widthMhz: null,
  polarization: 'vertical',
  rainMmPerHour: null,
  marginDb: 10,
  ends: { a: END_11, b: END_11 },
  profile: [],
}

/** A radio link says what its radios are set to, and what was surveyed between them. */
export const fromTenth = (plan: Fields): Fields => ({
  ...plan,
  version: 11,
  links: each(plan['links'], (link) => ({
    ...link,
    medium: within(link['medium'], (medium) =>
      medium['kind'] === 'radio' ? { radio: RADIO_11, ...medium } : medium,
    ),
  })),
})

const SSID_SETTINGS_12 = { security: null, bands: ['2.4', '5', '6'], hidden: false, leastMbps: null }

const END_12 = { role: null, readDbm: null, seen: '' }
const RATES_12 = { generation: null, streams: null, rangeSetM: null, neededMbps: null }
const radioOfTwelfth = (radio: Fields): Fields => ({
  ...RATES_12,
  ...radio,
  ends: within(radio['ends'], (ends) => ({
    a: within(ends['a'], (end) => ({ ...END_12, ...end })),
    b: within(ends['b'], (end) => ({ ...END_12, ...end })),
  })),
})

/** How SSIDs are sent, where rooms and access points are, what radios are set to, and what bridges carry. */
export const fromEleventh = (plan: Fields): Fields => ({
  ...plan,
  version: 12,
  brief: within(plan['brief'], (brief) => ({
    ...brief,
    buildings: each(brief['buildings'], (building) => ({ position: null, ...building })),
    rooms: each(brief['rooms'], (room) => ({ outline: null, readDbm: null, ...room })),
  })),
  ssids: each(plan['ssids'], (ssid) => ({ settings: SSID_SETTINGS_12, ...ssid })),
  links: each(plan['links'], (link) => ({
    ...link,
    medium: within(link['medium'], (medium) =>
      medium['kind'] === 'radio' ? { ...medium, radio: within(medium['radio'], radioOfTwelfth) } : medium,
    ),
  })),
  wifi: { radios: [], placements: [], foreign: [] },
})

const SOLAR_13 = { panelW: null, sunHours: null, batteryWh: null, drawW: null }
const radioOfThirteenth = (radio: Fields): Fields => ({
  ...radio,
  ends: within(radio['ends'], (ends) => ({
    a: within(ends['a'], (end) => ({ protection: '', solar: SOLAR_13, ...end })),
    b: within(ends['b'], (end) => ({ protection: '', solar: SOLAR_13, ...end })),
  })),
  profile: each(radio['profile'], (point) => ({ growsM: 0, ...point })),
})

/** What protects and feeds radios, what grows between them, and how stations are moved and greeted. */
export const fromTwelfth = (plan: Fields): Fields => ({
  ...plan,
  version: 13,
  ssids: each(plan['ssids'], (ssid) => ({
    ...ssid,
    settings: within(ssid['settings'], (settings) => ({ steering: false, portal: null, ...settings })),
  })),
  links: each(plan['links'], (link) => ({
    ...link,
    medium: within(link['medium'], (medium) =>
      medium['kind'] === 'radio' ? { ...medium, radio: within(medium['radio'], radioOfThirteenth) } : medium,
    ),
  })),
})

const END_15 = {
  asSet: { mhz: null, widthMhz: null, networkName: '' },
  survey: { readDbm: null, gainDbi: null },
  mounting: { dishM: null, mastM: null, footM: null },
}
const radioOfFifteenth = (radio: Fields): Fields => ({
  networkName: '',
  gustMps: null,
  ...radio,
  ends: within(radio['ends'], (ends) => ({
    a: within(ends['a'], (end) => ({ ...END_15, ...end })),
    b: within(ends['b'], (end) => ({ ...END_15, ...end })),
  })),
})
const mediumOfFifteenth = (medium: Fields): Fields => {
  if (medium['kind'] === 'wifi') return { fourAddress: false, ...medium }
  if (medium['kind'] !== 'radio') return medium
  return { ...medium, radio: within(medium['radio'], radioOfFifteenth) }
}

/** Which way access points send, when SSIDs are sent, how far air carries tags, and what wind and survey say. */
export const fromFourteenth = (plan: Fields): Fields => ({
  ...plan,
  version: 15,
  models: each(plan['models'], (model) => ({
    ...model,
    factory: within(model['factory'], (factory) =>
      factory['kind'] === 'channel' ? { stationAddress: null, ...factory } : factory,
    ),
  })),
  ssids: each(plan['ssids'], (ssid) => ({
    ...ssid,
    settings: within(ssid['settings'], (settings) => ({
      wps: false,
      macList: false,
      hours: null,
      ...settings,
    })),
  })),
  links: each(plan['links'], (link) => ({ ...link, medium: within(link['medium'], mediumOfFifteenth) })),
  wifi: within(plan['wifi'], (wifi) => ({
    ...wifi,
    placements: each(wifi['placements'], (placement) => ({ beam: null, ...placement })),
  })),
})

const AS_SET_16 = { security: null, mode: null, keyAsGiven: null }
const endOfSixteenth = (end: Fields): Fields => ({
  ...end,
  asSet: within(end['asSet'], (asSet) => ({ ...AS_SET_16, ...asSet })),
})
const radioOfSixteenth = (radio: Fields): Fields => ({
  security: null,
  ...radio,
  ends: within(radio['ends'], (ends) => ({
    a: within(ends['a'], endOfSixteenth),
    b: within(ends['b'], endOfSixteenth),
  })),
})

/** How radio links are encrypted, and what more their ends were found to be set to. */
export const fromFifteenth = (plan: Fields): Fields => ({
  ...plan,
  version: 16,
  links: each(plan['links'], (link) => ({
    ...link,
    medium: within(link['medium'], (medium) =>
      medium['kind'] === 'radio' ? { ...medium, radio: within(medium['radio'], radioOfSixteenth) } : medium,
    ),
  })),
})

const PLACE_17 = { grid: null, groundM: null }
const MODEL_17 = { sensitivityDbm: [], factorySsid: '' }
const AS_SET_17 = { address: '', mask: '', gateway: '' }
const endOfSeventeenth = (end: Fields): Fields => ({
  ...end,
  asSet: within(end['asSet'], (asSet) => ({ ...AS_SET_17, ...asSet })),
})
const radioOfSeventeenth = (radio: Fields): Fields => ({
  ...radio,
  ends: within(radio['ends'], (ends) => ({
    a: within(ends['a'], endOfSeventeenth),
    b: within(ends['b'], endOfSeventeenth),
  })),
})

const mediumOfSeventeenth = (medium: Fields): Fields => {
  if (medium['kind'] === 'wifi') return { suffix: '', ...medium }
  return medium['kind'] === 'radio'
    ? { ...medium, radio: within(medium['radio'], radioOfSeventeenth) }
    : medium
}

/** Places on a grid and heights of the ground; what a model's radio hears and sends; what address an end shows. */
export const fromSixteenth = (plan: Fields): Fields => ({
  ...plan,
  version: 17,
  brief: within(plan['brief'], (brief) => ({
    ...brief,
    buildings: each(brief['buildings'], (building) => ({ ...PLACE_17, ...building })),
  })),
  models: each(plan['models'], (model) => ({ ...MODEL_17, ...model })),
  links: each(plan['links'], (link) => ({
    ...link,
    medium: within(link['medium'], mediumOfSeventeenth),
  })),
})

/** A radio link may stand near 60 GHz; whoever does not know 802.11ad and its width cannot read it. */
export const fromSeventeenth = (plan: Fields): Fields => ({ ...plan, version: 18 })
