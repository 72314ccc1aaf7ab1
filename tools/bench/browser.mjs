import { createRequire } from 'node:module'
import { BROWSER_ARGUMENTS, browserPath } from '../browser.mjs'

const require = createRequire(import.meta.url)

/** Debian's Chromium, without a window. */
export const openBrowser = () =>
  require('@playwright/test').chromium.launch({
    executablePath: browserPath(),
    args: BROWSER_ARGUMENTS,
  })
