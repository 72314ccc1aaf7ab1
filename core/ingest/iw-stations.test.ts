import { describe, expect, it } from 'vitest'
import { readIwStations } from './iw-stations'

// As `iw dev wlan0 station dump` of iw 6.7 prints it, from memory; the addresses are those of RFC 7042 for documents.
const DUMP = `Station 00:00:5E:00:53:01 (on wlan0)
	inactive time:	304 ms
	rx bytes:	18816
	tx retries:	2
	signal:  	-47 [-49, -52] dBm
	signal avg:	-48 [-50, -53] dBm
	tx bitrate:	866.7 MBit/s VHT-MCS 9 80MHz short GI VHT-NSS 2
	rx bitrate:	6.0 MBit/s
Station 00:00:5e:00:53:02 (on wlan0)
	signal:  	-81 dBm
	tx bitrate:	13.0 MBit/s MCS 1
Station 00:00:5e:00:53:03 (on wlan0)
	inactive time:	20 ms
`

describe('a list of stations', () => {
  it('has what each is heard with, and the rate to it', () => {
    expect(readIwStations(DUMP)).toEqual({
      ok: true,
      value: [
        { mac: '00:00:5e:00:53:01', levelDbm: -48, rateMbps: 866.7 },
        { mac: '00:00:5e:00:53:02', levelDbm: -81, rateMbps: 13 },
        { mac: '00:00:5e:00:53:03', levelDbm: null, rateMbps: null },
      ],
    })
  })
  it('reads lines of another system, and refuses what is none', () => {
    expect(readIwStations(DUMP.replaceAll('\n', '\r\n'))).toEqual(readIwStations(DUMP))
    expect(readIwStations('BSS 00:00:5e:00:53:01(on wlan0)')).toMatchObject({
      ok: false,
      problems: [{ code: 'not-stations' }],
    })
    expect(readIwStations('Station 00:00:5e:00:53:01\n'.repeat(2008))).toMatchObject({
      ok: false,
      problems: [{ code: 'too-many-rows' }],
    })
  })
  it('takes no level or rate for one that cannot be', () => {
    const odd = 'Station 00:00:5e:00:53:01\n signal: 0 dBm\n tx bitrate: 0.0 MBit/s\n'
    expect(readIwStations(odd)).toEqual({
      ok: true,
      value: [{ mac: '00:00:5e:00:53:01', levelDbm: null, rateMbps: null }],
    })
  })
})
