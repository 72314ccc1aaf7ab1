import type { Problem } from '#core/util'

// What each refusal says: the place, then the reason.

type Values = Problem['values']

const bytesText = (bytes: number): string =>
  bytes >= 1e6 ? `${Math.round(bytes / 1e6)} MB` : `${Math.round(bytes / 1000)} kB`

/** What a reading has to hold, by what is measured. */
const WANTED_READING: Readonly<Record<string, string>> = {
  seconds: 'how long it took, with its unit, as in 12 s,',
  address: 'the address that was taken, as in 10.61.2.83,',
  level: 'the level that was read, as in -61 dBm or 78 %,',
}
/** Why a mail was not sent. */
const MAIL_REASONS = {
  address: 'the mail server does not take mail for that address',
  'sign-in': 'the mail server does not take our name and password: whoever runs this sets MAST_SMTP_URL',
  tls: 'the mail server offers no encryption',
  unreachable: 'the mail server did not take it: try again, or hand the link over yourself',
}
const REASONS: Readonly<Record<string, (v: Values) => string>> = {
  'not-ipv4': (v) => `${v['text'] || 'nothing'} is not an IPv4 address`,
  'leading-zero': (v) => `${v['text']} has a leading zero, which some programs read as octal`,
  'not-prefix': (v) => `${v['text'] || 'nothing'} is not a subnet such as 10.61.2.0/24`,
  'bad-length': (v) => `${v['text']}: a prefix length is 0 to 32`,
  'host-bits': (v) => `${v['text']} has host bits; ${v['meant']} was probably meant`,
  'not-a-vlan': (v) => `${v['text'] || 'nothing'} is not a VLAN number, 1 to 4094`,
  'not-a-number': (v) => `${v['text'] || 'nothing'} is not a whole number from ${v['least']} to ${v['most']}`,
  'not-eui48': (v) => `${v['text'] || 'nothing'} is not a MAC address such as 00-00-5E-00-53-01`,
  'multicast-mac': (v) => `${v['text']} is a group address; no device owns one`,
  'local-mac': (v) => `${v['text']} is locally administered, not a maker's address`,
  'not-ipv6': (v) => `${v['text'] || 'nothing'} is not an IPv6 address`,
  'not-prefix6': (v) => `${v['text'] || 'nothing'} is not a prefix such as fd61:6a11:c0de::/48`,
  'not-typed': () => 'only a device with a typed address has a typed IPv6 address; another makes its own',
  'not-cellular': () => 'this is not a cellular uplink: say so under Kept and enabled first',
  'bad-length6': (v) => `${v['text']}: an IPv6 prefix length is 0 to 128`,
  'host-bits6': (v) => `${v['text']} has host bits; ${v['meant']} was probably meant`,
  'no-length': (v) => `${v['text'] || 'nothing'} lacks its length, as in 203.0.113.2/30`,
  'too-long': (v) => `${v['text']} is too long`,
  'serial-other-kind': (values) =>
    `${values['text']} is the serial of the ${values['kind']}, from the same label; the product's is wanted`,
  'serial-again': (values) =>
    values['row'] === 0
      ? `${values['text']} is in the plan already`
      : `${values['text']} is in row ${values['row']} already`,
  'mac-again': (values) =>
    values['row'] === 0
      ? `${values['text']} is in the plan already`
      : `${values['text']} is in row ${values['row']} already`,
  'no-such-network': () => 'that network is gone',
  'outside-block': (v) => `${v['text']} is not in ${v['block']}`,
  collides: (v) => `${v['text']} collides with ${v['other']}, ${v['otherSubnet']}`,
  'too-small': (v) => `${v['text']} is too small for the ${v['needs']} addresses given in it`,
  'name-taken': (v) => `there is a ${v['text']} already`,
  'ports-in-use': (values) =>
    `${values['text']} leaves no place for what is connected at ${values['ports']}: take those out first`,
  'no-radio': (v) => `no access point with a radio sends ${v['text']}: choose one under SSIDs`,
  'no-station': (v) => `${v['text']} neither sends Wi-Fi nor joins it`,
  'no-home': (v) => `${v['text']} has no address of its own in a network`,
  'is-one': (v) => `${v['text']} is one device; only hosts stand for several`,
  'not-a-passphrase': () => 'a passphrase has 8 to 63 letters, digits and signs of ASCII',
  'no-portal': () => 'there is no portal: choose one first',
  'no-such-ssid': () => 'that SSID is gone',
  'no-such-radio-link': () => 'that radio link is gone',
  'radio-link-unsaid': (v) => `${v['text']} cannot be computed yet: finish it on Bridges`,
  'same-device': (v) => `both ends would be on ${v['text']}`,
  'port-taken': (v) => `${v['text']} has a cable already`,
  'no-gateway': () => 'there is no gateway yet; add one on the Loom',
  'no-free-port': (v) => `${v['text']} has no free port`,
  'not-in-range': (v) => `${v['text'] || 'nothing'} is not a number from ${v['least']} to ${v['most']}`,
  'not-printable': () =>
    'it holds a character that cannot be printed on one line, such as a tab or the end of a line',
  'not-a-domain': (v) => `${v['text']} is not a domain name`,
  'not-a-country': (v) => `${v['text']} is not a country’s two letters, such as NO`,
  'not-an-ssid': (v) => `${v['text'] || 'nothing'} is not 1 to 32 octets`,
  'no-ports': () => 'no port is named; say for example 1-12',
  'no-such-port': (v) => `there is no port ${v['text']}`,
  'bad-rule': (v) => `${v['text']} is not known in a label rule`,
  'no-scan': (v) => `${v['text']} holds neither a serial nor a MAC address`,
  'no-plan': () => 'the plan is not there yet: wait until it is read',
  'no-name': () => 'a name of 1 to 60 characters is needed',
  'vlan-twice': (v) => `VLAN ${v['text']} is in row ${v['row']} already`,
  'vlan-taken': (v) => `VLAN ${v['text']} belongs to ${v['other']}`,
  'no-such-vlan': (v) => `no network has VLAN ${v['text']}`,
  'not-a-pool': (v) => `${v['text']} is not a pool such as 10.61.2.80-10.61.2.119`,
  'pool-reversed': (v) => `${v['text']} ends before it begins`,
  'not-a-speed': (v) => `${v['text']} is not a speed down and up such as 500/100`,
  'not-a-mode': (v) => `${v['text']} is not one of ${v['choices']}`,
  'tagged-already': (v) => `VLAN ${v['text']} is tagged on this port already`,
  'native-already': (v) => `VLAN ${v['text']} is this port's native VLAN already`,
  'not-a-trunk': () => 'only a trunk carries tagged VLANs; change its mode first',
  'not-a-choice': (v) => `${v['text']} is not one of ${v['choices']}`,
  'address-outside': (v) => `${v['text']} is not in ${v['subnet']}`,
  'not-a-flow': (values) =>
    `${values['text'] || 'nothing'} is no flow such as tcp 8080, icmp, or 10.61.1.104 to 198.51.100.7 udp 53`,
  'not-a-member': (v) => `${v['text']} is no network, device, tunnel or peer of this plan, and no prefix`,
  'not-a-date': (values) => `${values['text']} is not a date such as 2026-12-07`,
  'not-a-moment': (v) => `${v['text']} is not a day and a time such as 2026-12-07 08:30`,
  'not-three-minutes': (values) =>
    `${values['text']} is not least, usual and worst minutes in their order, such as 5 / 10 / 30`,
  'not-a-time': (v) => `${v['text']} is not a time such as 08:00`,
  'not-days': (v) => `${v['text']} is not days such as Mon-Fri, Sun`,
  'not-ports': (values) =>
    `${values['text'] === '' ? 'an empty part' : values['text']} is not ports such as tcp 80 443, udp 500-510, icmp`,
  'not-a-service': (values) =>
    `${values['text']} is no service of this plan, no name of IANA’s registry ` +
    `(${values['ready'] === 'no' ? 'which is still being read' : 'such as imaps or ntp/udp'}) and ` +
    'no ports such as tcp 8080',
  'lengths-differ': (v) => `${v['text']}: the two prefixes must have one length`,
  'no-clash': (v) => `nothing there overlaps ${v['text']}`,
  'no-private-room': () => 'nothing is free in the private blocks',
  'no-room': (v) => `nothing is free in ${v['block']}`,
  'no-heading': (v) => `the heading does not name: ${v['columns']}`,
  'too-many-zones': (values) =>
    `${values['count']} networks and peers: of at most ${values['most']} together it can be told who reaches whom`,
  'too-many-rows': (v) => `more than ${v['most']} rows`,
  'empty-list': () => 'there is nothing in the list',
  'not-a-serial': (v) => `${v['text'] || 'nothing'} is not a serial such as GH-7A05-K5RZ`,
  'wrong-check': (v) => `${v['text']} does not check: a character is mistyped or two are swapped`,
  'not-a-sim': (v) => `${v['text']} is not the number of a SIM: 18 to 20 digits that begin with 89`,
  'not-an-apn': (v) => `${v['text']} is not an access point name such as internet.provider.example`,
  'no-such-device': (v) => `${v['text'] || 'nothing'} is not a device of this plan that can be managed`,
  'serial-twice': (v) => `${v['text']} is in the list twice`,
  'device-twice': (v) => `${v['text']} is in the list twice`,
  'serial-claimed': (v) => `${v['text']} is claimed already, for ${v['device']} of ${v['site']}`,
  'device-claimed': (v) => `${v['text']} has a serial already; release it first`,
  'no-such-claim': () => 'that claim is gone already',
  'not-a-plan': () => 'this is not a site file of Able Mast',
  'newer-version': (values) =>
    `the file is of version ${values['version']}; this Able Mast knows versions up to ` +
    `${values['known']}. Use a newer Able Mast`,
  'not-a-size': (values) =>
    `"${values['text']}" is no size: type width by depth in metres, such as 12 x 7, from 0.5 to 500`,
  'not-joined': () => 'It is joined to nothing yet: choose what it joins',
  'follows-channel': (v) => `It has the channel of ${v['name']}, which it has joined`,
  'not-a-beam': (values) =>
    `${values['text']} is not a direction such as 90, 70, -10: azimuth from the top, width from 5 to 180, tilt`,
  'not-hours': (values) => `${values['text']} are not hours such as 07:00 to 22:00`,
  'not-a-place': (values) =>
    `"${values['text']}" is no place: type metres from the left and from the top, such as 4, 2.5`,
  'not-a-position': (values) =>
    `"${values['text']}" is no position: type latitude and longitude in degrees, such as 57.1234, -2.5`,
  'not-geojson': () => 'no named point is in it: a GeoJSON file of points with the property name is wanted',
  'too-many-places': (v) => `more than ${v['most']} places`,
  'no-place-name': (v) => `a point needs the property name, of 1 to ${v['most']} characters`,
  'not-coordinates': () => 'its coordinates are not longitude, -180 to 180, and latitude, -90 to 90',
  'name-twice': (v) => `“${v['text']}” names another point above`,
  'not-walls': (values) =>
    `"${values['text']}" are no walls: type one material, or four from the top clockwise, of ${values['choices']}`,
  'reading-too-weak': ({ dBm, least }) =>
    `${dBm} dBm, and ${least} dBm are expected: sweep both ways for the peak, it may be a side lobe`,
  'not-stations': () => 'no station is listed here: paste what iw dev wlan0 station dump prints',
  'not-a-tile': (values) =>
    `${values['text']} is no elevation tile: N59E010.hgt of 1201 or 3601 samples a side, or a GeoTIFF in WGS 84`,
  'too-many-tiles': (values) => `more than ${values['most']} tiles: choose those that the way crosses`,
  'tile-too-large': (values) => `${values['text']} is larger than ${values['most']} MB, and was not read`,
  'no-height': () => 'no tile has a height there: choose the tile that covers it as well',
  'not-a-scan': () => 'no network is listed here: paste what iw dev wlan0 scan prints',
  'no-frequency-heard': () => 'no channel of Wi-Fi is named for it',
  'no-level-heard': () => 'no level in dBm is named for it',
  'not-a-reading': (v) => `${v['text']} is no reading: type -67 dBm, or 66 %`,
  'not-drawn': () => 'this room is not drawn: type its size first',
  'no-room-drawn': () =>
    'it hangs in no drawn room: type the size of its room, or give it a place on the Loom',
  'no-probe': () => 'this uplink is not probed: type whom to ask first',
  'key-in-use': (v) => `${v['name']} has this key: one key, one peer`,
  'not-a-key': (v) => `${v['text']} is not a public key: 44 characters that end in =`,
  'not-an-endpoint': (v) => `${v['text']} is not a host and a port, like vpn.site.example:51820`,
  'no-such-peer': (v) => `the saved plan has no tunnel and no peer called ${v['text']}`,
  'no-passphrase-needed': (v) => `${v['text']} is joined without a passphrase: choose WPA2 or WPA3 first`,
  'no-passphrase': (v) => `no passphrase is kept here for ${v['text']}: generate one, or type it`,
  'no-key': () => 'no private key is kept here for it',
  'other-key': () => 'the plan has another public key than the pair that is kept here: make new keys',
  'intent-syntax': (values) =>
    `${values['text'] === '' ? 'the line ends' : `"${values['text']}" stands`} where ${values['wanted']} is wanted`,
  'intent-twice': (v) => `${v['text']} names an intent already`,
  'not-json': (v) => `this is not JSON: it breaks off at line ${v['line']}, column ${v['column']}`,
  'too-large': (v) => `larger than ${bytesText(Number(v['most']))}`,
  'not-allowed': (values) => `${values['text'] || 'the value'} is not allowed here (${values['reason']})`,
  'names-nothing': (v) => `${v['text']} is not in the plan`,
  'from-after-to': (v) => `${v['text']} ends before it begins`,
  'id-twice': (v) => `the id ${v['text']} is used twice`,
  'bad-patch': () => 'the change does not fit the plan',
  'stale-revision': (v) => `${v['author']} saved revision ${v['now']} while you worked on ${v['yours']}`,
  'does-not-fit': () => 'changed by both, or gone',
  'undo-does-not-fit': (values) =>
    `somebody changed the same place since; "${values['words']}" cannot be taken back by itself`,
  'nothing-to-restore': () => 'the plan is the same as that revision',
  'plan-moved-on': (v) => `the plan is at revision ${v['now']} by now; look at it and ask again`,
  'no-such-revision': () => 'there is no such revision',
  'no-such-test': () => 'the plan has no such test any more',
  'no-such-item': () => 'the checklist has no such item any more',
  'no-such-step': () => 'the run sheet has no such step any more',
  'clock-ahead': () => 'this telephone’s clock is ahead of the server’s: set it, then tell it again',
  'too-many-records': (values) => `more than ${values['most']} records of one site are not kept`,
  'not-a-version': (values) => `${values['text'] || 'nothing'} is no version such as 3.4.2`,
  'other-version': (values) => `${values['text']} is not the planned ${values['planned']}`,
  'not-a-link-speed': (values) => `${values['text'] || 'nothing'} is no speed such as 1000 or 2.5 G`,
  'slow-link': (values) =>
    `${values['mbps']} Mb/s is less than the ${values['least']} Mb/s of its cable: a bad pair, or an old cord`,
  'not-a-cable-test': (values) => `${values['text'] || 'nothing'} is neither pass nor a length such as 38 m`,
  'not-a-wind': (values) => `${values['text']} is no wind speed; write metres a second, as 7.5`,
  'too-windy': (values) =>
    `${values['mps']} m/s is above the limit of ${values['limit']} m/s: nobody works outdoors`,
  'longer-cable': (values) => `${values['text']} is much longer than the planned ${values['planned']} m`,
  'too-many-ticks': (v) => `more than ${v['most']} ticks of one site are not kept`,
  'not-evidence': (values) =>
    values['text'] === ''
      ? 'there is nothing to compare'
      : `“${values['text']}” does not begin like anything that is read here: ` +
        'nft, ip or wg output, or a leases file',
  'not-a-host': (v) => `${v['text']} is neither an address nor a name of a host`,
  'conf-syntax': (v) => `“${v['text']}” is nothing that WireGuard reads there, or it stands twice`,
  'conf-no-interface': (values) =>
    values['count'] === 0
      ? 'there is no [Interface] section: this is no WireGuard file'
      : 'there is more than one [Interface] section',
  'conf-no-key': () => 'a [Peer] without a PublicKey',
  'no-reading': ({ kind }) => `${WANTED_READING[String(kind)] ?? 'what was read'} is needed`,
  'reading-too-late': (v) => `${v['seconds']} s is more than the ${v['within']} s that the plan promises`,
  'reading-not-leased': (v) => `${v['network']} hands out no ${v['text']}`,
  'vantage-inside': (values) =>
    `${values['text']} is inside this site: from there a test from outside proves nothing. Try ` +
    'it from somewhere else, such as a telephone’s own connection',
  'no-such-run': (v) => `there is no run ${v['text']} of this site`,
  'run-has-ended': (v) => `run ${v['text']} has ended already`,
  'no-such-thing': (v) => `${v['text']} is nothing whose failure is tried`,
  'too-many-tests': (values) =>
    `they make ${values['count']} acceptance tests, more than a plan may have (${values['most']}): ` +
    'let fewer failures be survived, or name fewer networks',
  'too-many-rule-lines': (values) =>
    `with their groups the rules make about ${values['count']} lines of a ruleset, more than a plan may have ` +
    `(${values['most']}); this one makes most of them: name networks or prefixes instead of large groups`,
  'too-many-scenarios': (values) =>
    `${values['count']} combinations of failures are more than one run may have (${values['most']}); ` +
    'choose fewer things',
  'out-of-range': (v) => `${v['text'] || 'nothing'} is not a number from ${v['least']} to ${v['most']}`,
  'not-in-order': (v) => `${v['text']} m does not come after ${v['before']} m, the row above`,
  'no-frequency': () => 'the gain of a dish needs the frequency: type that first',
  'no-rain-zone': (values) => `${values['text']} is no rain zone: A to H, J to N, P or Q`,
  'not-a-suffix': (values) =>
    `${values['text'] || 'nothing'} is not ${values['name']}, nor that and up to 16 letters, 32 octets in all`,
  'not-on-grid': (values) =>
    `${values['text'] || 'nothing'} is not metres to the east and to the north, as in 120, -40`,
  'no-such-site': () => 'there is no such site',
  'no-such-template': () => 'this template has been removed; choose another',
  'template-name-taken': (v) => `there is a template ${v['text']} already; give this one another name`,
  'too-many-templates': (v) => `there are ${v['most']} templates, the most there can be; remove one first`,
  'no-such-lab-device': () => 'the lab has no such device',
  'sign-in-wrong': () => 'name and password do not fit each other',
  'too-many-tries': (v) => `too many failed tries; wait ${v['minutes']} minutes`,
  'sign-in-needed': () => 'your session has ended; sign in again',
  'no-database': () => 'the database does not answer yet; try again in a moment',
  'other-host': () => 'this name is not known to be ours: MAST_PUBLIC_URL says by which it is reached',
  'name-in-use': (values) => `somebody is called ${values['text']} already`,
  'too-many-runs': (values) =>
    `${values['most']} runs of yours are open: wait until one is done, or stop one`,
  'no-such-person': () => 'they were removed in the meantime',
  'too-many-people': (values) => `more than ${values['most']} people`,
  'no-mail-server': () => 'this Able Mast has no mail server: whoever runs it sets MAST_SMTP_URL',
  'mail-not-sent': (values) =>
    MAIL_REASONS[String(values['reason']) as keyof typeof MAIL_REASONS] ?? MAIL_REASONS.unreachable,
  'too-many-mails': (values) =>
    `${values['most']} mails were sent within an hour: hand the link over yourself, or wait`,
  'last-administrator': (values) =>
    `${values['text']} is the only administrator who can sign in: make somebody else one first`,
  'sealed-otherwise': () =>
    'it was sealed under a key that this server does not have: bring that key back, or set it anew',
  'too-heavy': () =>
    'it took the server longer than it may; try again when less is going on, or make the plan smaller',
  'too-many-tokens': (values) => `an account has at most ${values['most']} API tokens: end one first`,
  'not-claimed-here': (values) => `${values['text']} is claimed elsewhere: what becomes of it is told there`,
  'no-such-webhook': () => 'that webhook was removed already',
  'too-many-webhooks': (values) => `an organisation has at most ${values['most']} webhooks: remove one first`,
  'webhook-not-a-url': (values) =>
    `${values['text']} is not an address such as https://tickets.example/able-mast`,
  'webhook-not-https': () => 'messages go over https alone: begin the address with https://',
  'webhook-not-public': () =>
    'that address is within a private network: whoever runs this Able Mast can allow its host by MAST_WEBHOOK_HOSTS',
  'no-such-token': () => 'that token was ended already',
  'token-unknown': () => 'this API token is not known, was ended, or is too old',
  'not-by-token': () => 'programs may not do this: sign in for it',
  'token-reads': () => 'this API token only reads: make one that may write',
  'second-factor-needed': () => 'this account asks for a second factor: give a code, or use a passkey',
  'code-wrong': () => 'that code is not valid, or was used already: wait for the next one',
  'authenticator-there': () => 'an authenticator app is set up already: remove it first',
  'authenticator-not-begun': () => 'the set-up was begun elsewhere, or removed: begin it again',
  'no-authenticator': () => 'no authenticator app is set up',
  'no-provider': () => 'this Able Mast has no single sign-on: whoever runs it sets MAST_OIDC_ISSUER',
  'provider-silent': (values) => `${values['text']} does not answer: try again, or sign in by a password`,
  'provider-refused': (values) => `${values['text']} did not say who you are`,
  'provider-answer-wrong': (values) =>
    `what ${values['text']} answered does not hold, or came too late: begin again`,
  'provider-not-asked': () => 'this browser did not ask for it, or more than ten minutes ago: begin again',
  'identity-unknown': (values) =>
    `nobody here is connected with your account at ${values['text']}: sign in by your password and connect it under ` +
    'Your account, or open the link that you were given',
  'identity-there': () => 'your account is connected already: remove that first',
  'identity-taken': () => 'somebody else here is connected with that account, or you are with another',
  'no-identity': () => 'your account is not connected any longer',
  'password-needed': () => 'you have no password yet, and no other way in: choose one first',
  'link-needs-password': () => 'by this link a password is chosen',
  'sign-in-again': () => 'you signed in more than ten minutes ago: sign out and in again, then repeat it',
  'factor-needed': () => 'your organisation asks for a second factor: set one up under Your account first',
  'own-factor-first': () => 'you have none yourself: set one up under Your account first',
  'no-second-factor': () => 'recovery codes belong to a second factor: set one up first',
  'no-passkeys-here': () =>
    'browsers use passkeys only over https, by a name: ask whoever runs this Able Mast to set MAST_PUBLIC_URL',
  'too-many-passkeys': (values) => `an account has at most ${values['most']} passkeys: remove one first`,
  'passkey-wrong': () => 'the passkey was not accepted; it may have been removed from the account',
  'passkey-not-given': () =>
    'the browser gave no passkey: it was cancelled, took too long, or has none for this',
  'passkey-known': () => 'this passkey is on the account already',
  'no-such-passkey': () => 'that passkey was removed already',
  'last-operator': (values) =>
    `${values['text']} is the only one who can add organisations: let somebody else do so first`,
  'operator-needed': () => 'only who operates this installation may do this',
  'organisation-in-use': (values) => `another organisation is called ${values['text']}`,
  'too-many-organisations': (values) => `more than ${values['most']} organisations`,
  'no-such-organisation': () => 'it was removed in the meantime',
  'own-organisation': (values) => `${values['text']} is your own organisation`,
  'organisation-has-sites': (values) =>
    `${values['text']} still has sites (${values['count']}): transfer them, or delete them for good, first`,
  'no-such-offer': () =>
    'it was used already, is too old, or a newer one was made: ask the other organisation for another',
  'serial-elsewhere': (values) =>
    `${values['text']} is claimed at a site that you do not see: whoever claimed it must release it first`,
  'person-disabled': (values) => `${values['text']} is disabled: enable them first`,
  'no-such-link': () =>
    'it was used already, is too old, or a newer one was made: ask an administrator for another',
  'no-such-session': () => 'that session has ended already',
  'password-short': (values) => `a password has at least ${values['least']} characters`,
  'password-weak': () => 'that password is easy to guess',
  'password-wrong': () => 'the password until now is another',
  'other-name': (values) => `the site is called ${values['name']}`,
  'site-archived': (values) => `${values['text']} is archived: bring it back on Sites before it is edited`,
  'other-role': () => 'your role may not do this',
  'other-origin': () => 'the request did not come from this application',
  'not-a-jpeg': () => 'this is no JPEG',
  'too-many-photos': (v) => `there are ${v['most']} photographs of this site, the most there can be`,
  'no-such-photo': () => 'this photograph has been removed',
  'not-your-photo': () => 'only whoever took a photograph, or a planner, may remove it',
  'no-camera': () => 'no scan: this page got no camera; browsers give one over HTTPS alone. Type it instead',
  'no-scanner': () => 'no scan: what reads codes could not be loaded. Type it instead',
  'no-picture': () => 'this file is no picture that the browser can read',
  'no-passphrases': () =>
    'no passphrase of this site’s SSIDs is kept on the server: set one under Wi-Fi first',
  'nothing-kept': () => 'this browser keeps nothing: leave its private window, or free some space',
  'no-answer': () => 'the server does not answer',
  defect: (v) => `a defect of Able Mast; quote ${v['reference']}`,
}

export function reasonOf(problem: Problem): string {
  return REASONS[problem.code]?.(problem.values) ?? problem.code
}

/** `row 7, column "gateway": 10.61.2.300 is not an IPv4 address` */
export function sentenceOf(problem: Problem): string {
  return problem.place === '' ? reasonOf(problem) : `${problem.place}: ${reasonOf(problem)}`
}
