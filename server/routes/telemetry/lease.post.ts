import { leaseNoticeSchema } from '#contracts/bootstrap'
import { readChecked, refused, route } from '#server/platform/route'
import { serialFromBasic } from '#server/platform/secrets'
import { leaseNoticed } from '#server/services/bootstrap'

/** A DHCP server tells of a lease: which serial (its client identifier) got which address. */
export default route(async (event) => {
  if (serialFromBasic(getRequestHeader(event, 'authorization')) !== 'dhcp-server')
    throw refused(401, 'access-denied')
  const { serial, model, address } = await readChecked(event, leaseNoticeSchema, 4000)
  await leaseNoticed(serial, model, address)
  return { kept: true }
})
