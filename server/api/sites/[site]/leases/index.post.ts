import { leaseNoticeSchema } from '#contracts/bootstrap'
import { readChecked, route, slugOf } from '#server/platform/route'
import { leaseNoticed } from '#server/services/bootstrap'

/** A DHCP server of a site tells of a lease: which serial (its client identifier) got which address. */
export default route(async (event) => {
  const { serial, model, address } = await readChecked(event, leaseNoticeSchema, 4000)
  await leaseNoticed(slugOf(event), { serial, model, address })
  return { kept: true }
})
