import { createRequire } from 'node:module'
import { BROWSER_ARGUMENTS } from '../browser-arguments.mjs'
import { chromium } from '../install.mjs'

const require = createRequire(import.meta.url)

/** Debian's Chromium, without a window. */
export const openBrowser = () =>
  require('@playwright/test').chromium.launch({
    executablePath: chromium(),
    args: BROWSER_ARGUMENTS,
  })
