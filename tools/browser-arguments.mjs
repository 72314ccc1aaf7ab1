/**
 * What the library that drives the browser turns off (the last list of features counts), and the panes of the address
 * bar, which no test sees: they start with every page, and take a second of a processor each.
 */
const UNWANTED = [
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsUpgrades',
  'HttpsFirstBalancedModeAutoEnable',
  'LensOverlay',
  'MediaRouter',
  'PaintHolding',
  'ThirdPartyStoragePartitioning',
  'AvoidCorsURLLoaderRestartOnRedirect',
  'OptimizationHints',
  'NetworkTimeServiceQuerying',
  'AimEnabled',
  'PreconnectToSearch',
  'WebUIOmniboxPopup',
  'WebUIOmniboxAimPopup',
]

/** For Debian's Chromium in tests and measurements. */
export const BROWSER_ARGUMENTS = [
  `--disable-features=${UNWANTED.join()}`,
  ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
]
