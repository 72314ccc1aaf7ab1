import { ADDRESS_CASES } from './address'
import { BRIEF_CASES } from './brief'
import { CABLING_CASES } from './cabling'
import { LAYER2_CASES } from './layer2'
import { POLICY_CASES } from './policy'
import { RADIO_CASES } from './radio'
import { TUNNELS_CASES } from './tunnels'
import { UPLINKS_CASES } from './uplinks'
import { WIFI_CASES } from './wifi'
import { WORK_CASES } from './work'
import type { Case } from './case'

export const CASES: readonly Case[] = [
  ...ADDRESS_CASES,
  ...BRIEF_CASES,
  ...CABLING_CASES,
  ...LAYER2_CASES,
  ...POLICY_CASES,
  ...RADIO_CASES,
  ...TUNNELS_CASES,
  ...UPLINKS_CASES,
  ...WIFI_CASES,
  ...WORK_CASES,
]
