import { z } from 'zod'
import { certificateText, derOf, readCertificate, type Signer } from './certificates'
import { signJson, verifiedJson, VOUCHER_JSON } from './signed-data'

// Ownership vouchers (RFC 8366): a maker says whose a device is.

const voucherSchema = z.object({
  'ietf-voucher:voucher': z.object({
    'serial-number': z.string(),
    'pinned-domain-cert': z.string(),
    nonce: z.string().optional(),
  }),
})

/**
 * A voucher for one device and one question.
 * @param nonce that the device sent, as base64: it makes the voucher good for this answer alone
 */
export const makeVoucher = (
  maker: Signer,
  owner: Signer,
  { serial, nonce, at }: { readonly serial: string; readonly nonce: string; readonly at: Date },
): Promise<string> =>
  signJson(
    VOUCHER_JSON,
    {
      'ietf-voucher:voucher': {
        'created-on': at.toISOString(),
        assertion: 'logged',
        'serial-number': serial,
        nonce,
        'pinned-domain-cert': Buffer.from(derOf(owner.certificate)).toString('base64'),
      },
    },
    maker,
  )

/** Certificate of a device's owner, as its maker says in a voucher for it; null where the voucher is not one. */
export async function ownerIn(
  voucher: string,
  { maker, serial, nonce }: { readonly maker: string; readonly serial: string; readonly nonce: string },
): Promise<string | null> {
  const read = voucherSchema.safeParse(await verifiedJson(VOUCHER_JSON, voucher, [readCertificate(maker)]))
  if (!read.success) return null
  const told = read.data['ietf-voucher:voucher']
  if (told['serial-number'] !== serial || told.nonce !== nonce) return null
  return certificateText(readCertificate(told['pinned-domain-cert']))
}
