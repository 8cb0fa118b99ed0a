import { defineConfig } from '@playwright/test'

/**
 * What the runner switches off by itself, which a list of ours takes the place of, and the pages Chromium keeps ready for its own address bar:
 * nobody sees it here, and they took a tenth of the time of all tests.
 */
const WITHOUT = [
  'WebUIOmniboxPopup',
  'WebUIOmniboxAimPopup',
  'AimEnabled',
  'AvoidCorsURLLoaderRestartOnRedirect',
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsFirstBalancedModeAutoEnable',
  'HttpsUpgrades',
  'LensOverlay',
  'MediaRouter',
  'NetworkTimeServiceQuerying',
  'OptimizationHints',
  'PaintHolding',
  'PreconnectToSearch',
  'ThirdPartyStoragePartitioning',
]

/** The built app against the real server and database, in Debian's Chromium. */
export default defineConfig({
  testDir: '.',
  outputDir: '../.build/e2e',
  // Limits catch what hangs, not what is slow: a machine three times as busy passes too.
  timeout: 900_000,
  expect: { timeout: 240_000 },
  workers: 2,
  fullyParallel: true,
  forbidOnly: true,
  retries: 0,
  reporter: [['list'], ['json']],
  use: {
    browserName: 'chromium',
    locale: 'en-GB',
    actionTimeout: 240_000,
    timezoneId: 'Atlantic/Azores',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        `--disable-features=${WITHOUT.join(',')}`,
      ],
    },
    trace: 'off',
  },
})
