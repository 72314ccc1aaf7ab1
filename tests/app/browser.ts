/** What a browser keeps, and which of its tabs is looked at: every other tab is closed that is not among `open`. */
export const browser = { kept: new Map<string, unknown>(), tab: 'tab 1', open: new Set<string>() }

/** In place of `idb-keyval`. */
export const storage = {
  createStore: () => undefined,
  get: async (key: string) => structuredClone(browser.kept.get(key)),
  set: async (key: string, value: unknown) => void browser.kept.set(key, structuredClone(value)),
  update: async (key: string, make: (value: unknown) => unknown) =>
    void browser.kept.set(key, structuredClone(make(structuredClone(browser.kept.get(key))))),
  del: async (key: string) => void browser.kept.delete(key),
  keys: async () => [...browser.kept.keys()],
}

/** In place of `~/stores/tab`. */
export const tabs = {
  thisTab: async () => browser.tab,
  closedTabs: async () => (tab: string) => tab !== browser.tab && !browser.open.has(tab),
  oneTabAtATime: async (_name: string, work: () => Promise<unknown>) => work(),
}
