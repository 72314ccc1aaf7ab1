/** What the findings of radio links say, by code. */
export interface RadioValues {
  /** Less is to spare than the margin asks for, even for the slowest rate. */
  R01: { link: string; at: string; spareDb: number; marginDb: number; key: string }
  /** More is sent than the country permits, or on a frequency that it does not. */
  R02: { link: string; kind: 'too-strong' | 'forbidden'; country: string; eirpDbm: number; mostDbm: number }
  /** Too little of the first Fresnel zone is free. */
  R03: { link: string; percent: number; atM: number }
}

export interface RadioMends {
  'lower-bridge-power': { link: string; ends: number }
}
