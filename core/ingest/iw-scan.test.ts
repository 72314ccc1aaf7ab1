import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isPrintableLine } from '#core/format'
import { MOST_HEARD, readIwScan } from './iw-scan'

/** In the form that iw's source gives a scan, written from memory: no radio is there to run it with. */
const SCAN = `BSS 02:00:5e:10:00:01(on wlan0)
	last seen: 2012.400s [boottime]
	TSF: 1234567890 usec (0d, 00:20:34)
	freq: 2437
	beacon interval: 100 TUs
	capability: ESS Privacy ShortSlotTime (0x0411)
	signal: -58.00 dBm
	last seen: 20 ms ago
	Information elements from Probe Response frame:
	SSID: Harbour caf\\xc3\\xa9
	Supported rates: 1.0* 2.0* 5.5* 11.0*
	HT operation:
		 * primary channel: 6
		 * secondary channel offset: above
		 * STA channel width: any
BSS 02:00:5e:10:00:02(on wlan0) -- associated
	freq: 5180.0
	signal: -71.50 dBm
	SSID: 
	HT operation:
		 * secondary channel offset: above
	VHT operation:
		 * channel width: 1 (80 MHz)
		 * center freq segment 1: 42
BSS 02:00:5e:10:00:03(on wlan0)
	freq: 5955
	signal: -80.00 dBm
	SSID: \\x00\\x00\\x00
BSS 02:00:5e:10:00:04(on wlan0)
	freq: 5500
	signal: -66.00 dBm
	SSID: Wide
	VHT operation:
		 * channel width: 2 (160 MHz)
`
const codes = (text: string) => {
  const read = readIwScan(text)
  return read.ok ? [] : read.problems.map(({ code, place }) => `${place}: ${code}`)
}
const block = (rest: string) => `BSS 02:00:5e:10:00:09(on wlan0)\n${rest}`

describe('a scan by iw', () => {
  it('gives name, channel, width and level of each network', () => {
    expect(readIwScan(SCAN)).toEqual({
      ok: true,
      value: [
        { name: 'Harbour café', band: '2.4', channel: 6, widthMhz: 40, levelDbm: -58 },
        { name: '', band: '5', channel: 36, widthMhz: 80, levelDbm: -71.5 },
        { name: '', band: '6', channel: 1, widthMhz: 20, levelDbm: -80 },
        { name: 'Wide', band: '5', channel: 100, widthMhz: 160, levelDbm: -66 },
      ],
    })
    expect(readIwScan(SCAN.replaceAll('\n', '\r\n'))).toEqual(readIwScan(SCAN))
  })
  it('is refused where it is none, and where a network says neither where nor how loud', () => {
    expect(codes('room,dBm\nHall,-60')).toEqual([': not-a-scan'])
    expect(codes(block('\tsignal: -60.00 dBm'))).toEqual(['BSS 02:00:5e:10:00:09: no-frequency-heard'])
    expect(codes(block('\tfreq: 900\n\tsignal: -60.00 dBm'))).toEqual([
      'BSS 02:00:5e:10:00:09: no-frequency-heard',
    ])
    expect(codes(block('\tfreq: 2412\n\tsignal: 40/100'))).toEqual(['BSS 02:00:5e:10:00:09: no-level-heard'])
    const many = Array.from({ length: MOST_HEARD + 1 }, () =>
      block('\tfreq: 2412\n\tsignal: -60.00 dBm'),
    ).join('\n')
    expect(codes(many)).toEqual([': too-many-rows'])
  })
  it('reads any text as a name, also half a letter, into what a plan can hold', () => {
    const text = fc.string({ unit: 'binary', maxLength: 40 }).filter((name) => !/[\r\n]/.test(name))
    fc.assert(
      fc.property(
        fc.oneof(text, fc.constantFrom('\ud800', 'a\udc00b', '😀'.repeat(20), `a${'😀'.repeat(20)}`)),
        (name) => {
          const read = readIwScan(block(`\tfreq: 2412\n\tsignal: -60.00 dBm\n\tSSID: ${name}`))
          expect(read.ok && read.value.every((one) => isPrintableLine(one.name))).toBe(true)
        },
      ),
    )
  })
  it('keeps every name printable and within 32 letters, whatever octets it was sent as', () => {
    const name = fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 32 })
    fc.assert(
      fc.property(name, (octets) => {
        const shown = octets.map((octet) => `\\x${octet.toString(16).padStart(2, '0')}`).join('')
        const read = readIwScan(block(`\tfreq: 2412\n\tsignal: -60.00 dBm\n\tSSID: ${shown}`))
        const heard = read.ok ? (read.value[0]?.name ?? '') : 'refused'
        // eslint-disable-next-line no-control-regex -- control letters are what is looked for
        expect(heard).not.toMatch(/[\u0000-\u001f\u007f-\u009f]/)
        expect(heard.length).toBeLessThanOrEqual(32)
      }),
    )
  })
})
