// Question: does everything get its power, for how long without the mains, and at what price?
export { dropAlong, loadsWithin, loopOhm, POE_CLASSES, poeClass } from './poe'

export { runTimeMin, SUPPLY_EFFICIENCY, yearlyFromReading, yearlyKwh } from './energy'
export { roomForMore, standardLoad } from './more'
export type { RoomForMore } from './more'
export { isOnMains, ownDrawW, powerOf } from './budget'
export type { Feed, Powered, Source } from './budget'
