import type { FlowRef } from '#core/reachability'

/**
 * What is chosen on the sheets: kept while one goes from sheet to sheet.
 * `walk`: a flow whose way the Loom shows.
 */
const chosen = reactive({
  network: '',
  device: '',
  port: '',
  link: '',
  vlan: 0,
  walk: null as FlowRef | null,
})

export const useChosen = () => chosen
