// The Gullhaven Tidal Observatory: an invented marine research station on an invented coast.
import { BLANK_SITE, BLANK_UPLINK } from '#core/edit'
import { PLAN_FORMAT, PLAN_VERSION } from '#core/format'
import type { Plan } from '#core/schema'
import {
  access,
  inNetwork,
  inside,
  intent,
  inTunnel,
  internet,
  SERVICES,
  ssid,
  theDevice,
  toGateway,
  trunk,
} from '../build'
import { type Variant, ALL } from './places'
import { networks } from './networks'
import { fibreFacts, cellularFacts, brief } from './brief'
import { devices, links } from './devices'
import { rules } from './policy'
import { wifiFacts } from './wifi'
import { work } from './work'
import { watched, HARBOUR, TUNNELS } from './tunnels'

export { boxSerial } from './brief'

function gullhaven(variant: Variant): Plan {
  return {
    format: PLAN_FORMAT,
    version: PLAN_VERSION,
    site: {
      ...BLANK_SITE,
      name: variant.name,
      supernet: '10.61.0.0/20',
      prefix6: 'fd61:6a11:c0de::/48',
      country: variant.clean ? 'XG' : '',
      upsWh: 860,
      pricePerKwh: 0.31,
      toldTo: 'Keeper',
    },
    brief: brief(variant),
    models: [],
    templates: [
      {
        id: 'desk-row',
        name: 'Desks and one uplink',
        model: 'S24P',
        ports: [
          { names: '1-12', mode: access(10) },
          { names: '25', mode: trunk(99, ...ALL) },
        ],
      },
    ],
    networks: networks(variant),
    devices: devices(variant),
    links: links(variant),
    wifi: wifiFacts(variant),
    work: work(),
    ssids: [
      ssid(
        {
          id: 'staff-ssid',
          name: 'Tidewater',
          networkId: 'staff',
          isolation: false,
          apIds: ['lab-ap-1', 'lab-ap-2', 'boat-ap'],
        },
        { security: 'wpa2-wpa3', leastMbps: 6 },
      ),
      ssid(
        {
          id: 'guest-ssid',
          name: 'Tidewater Visitors',
          networkId: 'guests',
          isolation: true,
          apIds: ['lab-ap-1', 'lab-ap-2', 'boat-ap', 'visit-ap'],
        },
        { security: 'owe', leastMbps: 6 },
      ),
    ],
    uplinks: [
      {
        id: 'fibre',
        name: 'Fibre',
        deviceId: 'gateway',
        portId: 'p1',
        kind: 'pppoe',
        tag: 132,
        priority: 1,
        outside: 'own',
        downMbps: 500,
        upMbps: 100,
        ...BLANK_UPLINK,
        ...watched(variant),
        facts: fibreFacts(variant),
      },
      {
        id: '5g',
        name: '5G',
        deviceId: 'gateway',
        portId: 'p2',
        kind: 'dhcp',
        tag: null,
        priority: 2,
        outside: 'shared',
        downMbps: 80,
        upMbps: 20,
        ...BLANK_UPLINK,
        sharedRisks: ['power in the plant room'],
        availablePct: 99,
        facts: cellularFacts(variant),
      },
    ],
    services: SERVICES,
    groups: [],
    schedules: [],
    policies: [{ deviceId: 'gateway', forward: 'drop', input: 'drop', rules: rules(variant), pairs: [] }],
    routes: [],
    policyRoutes: [
      {
        id: 'guests-wait',
        deviceId: 'gateway',
        from: inNetwork('guests'),
        services: [],
        out: { kind: 'uplink', id: 'fibre' },
        orElse: 'refuse',
        note: 'Guests wait while the fibre is down',
      },
    ],
    forwards: [],
    tunnels: TUNNELS,
    ipsec: [HARBOUR],
    intents: [
      intent('i-guests', inNetwork('guests'), internet, [], 'Guests reach the internet and nothing else'),
      intent(
        'i-tide',
        inNetwork('instruments'),
        theDevice('tide-server'),
        ['tide', 'ntp'],
        'Instruments deliver their data and take the time',
      ),
      intent(
        'i-files',
        inNetwork('staff'),
        inNetwork('servers'),
        ['files', 'https', 'ping'],
        'Staff reach the servers',
      ),
      intent('i-staff', inNetwork('staff'), internet, [], 'Staff reach the internet'),
      intent(
        'i-admin',
        theDevice('admin-desk'),
        inNetwork('management'),
        ['ssh', 'https', 'ping'],
        'Management only from the admin desk',
      ),
      intent(
        'i-video',
        inNetwork('cameras'),
        theDevice('recorder'),
        ['video'],
        'Cameras reach only their recorder',
      ),
      intent(
        'i-voice',
        inNetwork('voice'),
        internet,
        ['calls', 'dns'],
        'Voice keeps working with the fibre down',
        ['fibre'],
      ),
      intent('i-servers', inNetwork('servers'), internet, ['web', 'dns', 'ntp'], 'Servers fetch updates'),
      intent('i-manage', inNetwork('management'), internet, ['web', 'dns', 'ntp'], 'Devices fetch firmware'),
      intent(
        'i-office',
        inTunnel('mainland'),
        theDevice('tide-server'),
        ['tide', 'https'],
        'The Mainland Office reaches the tide data under either uplink',
        ['fibre', '5g'],
      ),
      intent(
        'i-archive',
        inTunnel('mainland'),
        theDevice('recorder'),
        ['https'],
        'The camera archive, from the Mainland Office only',
      ),
      intent(
        'i-away',
        inTunnel('keeper-away'),
        inNetwork('management'),
        ['ssh', 'https', 'ping'],
        'One tunnel user manages',
      ),
      intent(
        'i-road',
        { kind: 'tunnel', id: 'mainland-link' },
        theDevice('file-server'),
        ['files'],
        'People in the tunnel reach the files',
      ),
      intent(
        'i-names',
        inside,
        toGateway,
        ['dns', 'ntp', 'ping'],
        'Everyone may ask the gateway for names and time',
      ),
      intent(
        'i-gate',
        theDevice('admin-desk'),
        toGateway,
        ['ssh', 'https'],
        'The admin desk manages the gateway',
      ),
    ],
  }
}

/** Nearly right: one blocker and a handful of lesser findings, on purpose. */
export const gullhavenPlan = (): Plan => gullhaven({ name: 'Gullhaven Tidal Observatory', clean: false })

/** The same site without the mistakes: the Lookout has nothing to say about it but notes of habit. */
export const gullhavenClean = (): Plan => gullhaven({ name: 'Gullhaven, clean copy', clean: true })
