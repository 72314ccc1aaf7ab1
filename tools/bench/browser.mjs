import { createRequire } from 'node:module'
import { chromium } from '../install.mjs'

const require = createRequire(import.meta.url)

/** Debian's Chromium, without a window. */
export const openBrowser = () =>
  require('@playwright/test').chromium.launch({
    executablePath: chromium(),
    args: process.getuid?.() === 0 ? ['--no-sandbox'] : [],
  })
