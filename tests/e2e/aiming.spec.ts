import type { Page } from '@playwright/test'
import { accessible, expect, signIn, test, PHONE } from './fixtures'

// A rigger on a mast, with a telephone in a pocket.

const now = (page: Page) => page.getByRole('img', { name: /highest/ })

/** Turns one of the simulated antenna's two axes back to where it has to look. */
async function turnBack(page: Page, axis: RegExp): Promise<void> {
  const slider = page.getByRole('slider', { name: axis })
  await slider.focus()
  for (let i = 0; i < 60 && (await slider.getAttribute('aria-valuenow')) !== '0'; i++)
    await page.keyboard.press('ArrowLeft')
  await expect(slider).toHaveAttribute('aria-valuenow', '0')
}

test('an antenna is aimed by the simulated radios: a side lobe is told, the peak is kept as proof', async ({
  page,
}) => {
  await signIn(page, 'Rigger')
  await page.setViewportSize(PHONE)
  await page.goto('/sites/gullhaven-clean/aiming')
  await expect(page.getByText('Seen in that direction: the left edge of the beacon rock.')).toBeVisible()
  await expect(page.getByText('Stay out of the beam')).toBeVisible()
  await page.getByLabel('Use the lab’s simulated radios').check()
  await expect(now(page)).toHaveAccessibleName(/dB to go/)
  await accessible(page, 'main')
  await page.getByRole('button', { name: 'It gets no higher' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'side lobe is likelier' })).toBeVisible()
  await page.getByRole('button', { name: 'Go on turning' }).click()
  await turnBack(page, /Sideways/)
  await expect(now(page)).toHaveAccessibleName(/as computed|[123] dB (to go|above)/)
  await page.getByRole('button', { name: 'It gets no higher' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'As computed' })).toBeVisible()
  await page.getByLabel('Compass, °').fill('242.5')
  await page.getByLabel('Tilt, °').fill('-0.1')
  await page.getByLabel('Torque, Nm').fill('12')
  await page.getByRole('button', { name: /^Keep −\d+ dBm as passed$/ }).click()
  await expect(page.getByText('Kept: Skerry bridge, end A')).toBeVisible()
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto('/sites/gullhaven-clean/prove')
  const row = page.getByRole('row', { name: /Skerry bridge, end A: aimed at/ })
  await expect(row).toContainText('dBm')
  await expect(row).toContainText('fixed with 12 Nm')
})

test('a reading that is typed is taken, judged and spoken', async ({ page }) => {
  await page.addInitScript(() => {
    const spoken: string[] = []
    Object.assign(globalThis, { spoken })
    Object.defineProperty(globalThis, 'speechSynthesis', {
      value: {
        getVoices: () => [{}],
        addEventListener: () => undefined,
        removeEventListener: () => undefined,
        cancel: () => undefined,
        speak: ({ text }: { readonly text: string }) => spoken.push(text),
      },
    })
  })
  await signIn(page, 'Rigger')
  await page.setViewportSize(PHONE)
  await page.goto('/sites/gullhaven-clean/aiming')
  const reading = page.getByLabel('Reading', { exact: true })
  await reading.fill('loud')
  await page.getByRole('button', { name: 'Take' }).click()
  await expect(page.getByText('no reading yet')).toBeVisible()
  await reading.fill('60 %')
  await page.getByRole('button', { name: 'Take' }).click()
  await expect(now(page)).toHaveAccessibleName(/−70 dBm/)
  await reading.fill('-64 dBm')
  await page.keyboard.press('Enter')
  await expect(now(page)).toHaveAccessibleName(/^−64 dBm.*highest −64 dBm/)
  await reading.fill('-66')
  await page.keyboard.press('Enter')
  await expect(now(page)).toHaveAccessibleName(/^−66 dBm.*highest −64 dBm/)
  await page.getByLabel('Spoken').check()
  await expect
    .poll(() => page.evaluate(() => (globalThis as unknown as { spoken: string[] }).spoken))
    .toContain('minus 66')
})
