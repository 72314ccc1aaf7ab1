import { existsSync } from 'node:fs'

// Debian's Chromium for tests and measurements. Its headless shell draws the same pages without a browser's own windows
// and panes, which cost a tenth of a run's processor time, and more of its waiting.

export const SHELL = '/usr/bin/chromium-headless-shell'

/** The best first. */
export const BROWSERS = [SHELL, '/usr/bin/chromium', '/usr/bin/chromium-browser']
export const browserPath = () => BROWSERS.find(existsSync) ?? SHELL

export const BROWSER_ARGUMENTS = process.getuid?.() === 0 ? ['--no-sandbox'] : []
