/** Whether somebody asked for a part that is not kept on this device while nobody answers. */
export const useMissingPart = defineStore('missing-part', () => ({ isMissing: ref(false) }))
