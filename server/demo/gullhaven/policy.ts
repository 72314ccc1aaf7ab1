import { inNetwork, inside, inTunnel, internet, rule, theDevice, toGateway } from '../build'
import { type Variant } from './places'

export function rules({ clean }: Variant) {
  return [
    rule('r-guests', inNetwork('guests'), internet, [], 'Guests: the internet and nothing else'),
    rule(
      'r-tide',
      inNetwork('instruments'),
      theDevice('tide-server'),
      ['tide', 'ntp'],
      'Instruments deliver to the tide-data server',
    ),
    rule(
      'r-files',
      inNetwork('staff'),
      inNetwork('servers'),
      ['files', 'https', 'ping'],
      'Staff use the servers',
    ),
    rule('r-staff', inNetwork('staff'), internet, [], 'Staff use the internet'),
    rule(
      'r-admin',
      theDevice('admin-desk'),
      inNetwork('management'),
      ['ssh', 'https', 'ping'],
      'Only the admin desk manages',
    ),
    rule(
      'r-video',
      inNetwork('cameras'),
      theDevice('recorder'),
      ['video'],
      'Cameras deliver to their recorder',
    ),
    rule('r-voice', inNetwork('voice'), internet, ['calls', 'dns'], 'Telephones register outside'),
    rule(
      'r-servers',
      inNetwork('servers'),
      internet,
      ['web', 'dns', 'ntp'],
      'Servers fetch updates and time',
    ),
    rule(
      'r-manage',
      inNetwork('management'),
      internet,
      ['web', 'dns', 'ntp'],
      'Devices fetch firmware and time',
    ),
    rule(
      'r-office',
      inTunnel('mainland'),
      theDevice('tide-server'),
      ['tide', 'https'],
      'The Mainland Office reads the tide data',
    ),
    rule(
      'r-archive',
      inTunnel('mainland'),
      theDevice('recorder'),
      ['https'],
      'The camera archive, from the Mainland Office only',
    ),
    rule(
      'r-away',
      inTunnel('keeper-away'),
      inNetwork('management'),
      ['ssh', 'https', 'ping'],
      'The keeper manages from the road',
    ),
    rule(
      'r-road',
      { kind: 'tunnel', id: 'mainland-link' },
      theDevice('file-server'),
      ['files'],
      'Files for whoever is in the tunnel',
    ),
    ...(clean
      ? []
      : [
          rule(
            'r-tide-again',
            inNetwork('instruments'),
            theDevice('tide-server'),
            ['tide'],
            'Left over from the move',
          ),
        ]),
    rule('r-in', inside, toGateway, ['dns', 'ntp', 'ping'], 'Name and time service on the gateway', 'input'),
    rule(
      'r-in-admin',
      theDevice('admin-desk'),
      toGateway,
      ['ssh', 'https'],
      'The admin desk manages the gateway',
      'input',
    ),
  ]
}
