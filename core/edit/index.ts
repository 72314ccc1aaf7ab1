export { layAllotments, moveNetwork, placeNetwork, proposeSubnets } from './allot'
export type { Allotment } from './allot'
export {
  BLANK_SSID_SETTINGS,
  BLANK_BRIEF,
  BLANK_CELLULAR,
  BLANK_FACTS,
  BLANK_FIXED,
  BLANK_IPSEC,
  BLANK_LINK,
  BLANK_RADIO,
  BLANK_NETWORK,
  BLANK_PLACE,
  BLANK_PORT,
  BLANK_SITE,
  BLANK_UPLINK,
  BLANK_WIFI,
  BLANK_WORK,
  USUAL_NAME,
} from './blanks'
export { addressInfrastructure, layTemplate, portsOfModel, setPorts, spanOf, templateFrom } from './bulk'
export { applyChanges, changesBetween, changesNotIn } from './change'
export type { Change, Json } from './change'
export { planForAnotherSite } from './copy'
export {
  joinSsid,
  renameDevice,
  setCount,
  setHome,
  setJoined,
  setModel,
  setSenders,
  setSent,
  ssidOf,
} from './devices'
export { joinedTo, sendersFor } from './join'
export type { Sender } from './join'
export { firstPlan, MOST_ACCESS_POINTS, MOST_DESKS, MOST_ROOMS } from './first-plan'
export type { SiteWishes } from './first-plan'
export { mapApart } from './map-apart'
export { withPlaces } from './places'
export type { NamedPlace } from './places'
export { radioBetween } from './radio-between'
export { addRoom } from './rooms'
export {
  firstFreeAddress,
  freshId,
  proposeNetwork,
  reservationFor,
  reserve,
  renumberVlan,
  takenAddresses,
  turnedInto,
  usualHome,
} from './propose'
export {
  USUAL_SERVICES,
  addDevice,
  addUplink,
  blankPlan,
  connect,
  disconnect,
  portNamed,
  removeDevice,
  removeUplink,
} from './wire'
export { addPeer, addTunnel } from './tunnels'
export { withPrintableTexts } from './printable'
export { withoutDangling } from './tidy'
export { adjust, adjustmentOf, removePerson, setDuration } from './work'
