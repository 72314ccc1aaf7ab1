import { accessible, another, expect, lookout, signIn, test, SHEET_KEYS } from './fixtures'

test('a wrong password is refused without a hint, a right one opens the sites', async ({ page }) => {
  await page.goto('/sites/gullhaven/reach')
  await expect(page).toHaveURL(/\/sign-in/)
  await accessible(page)
  for (const [name, password] of [
    ['Planner', 'wrong'],
    ['Nobody', 'wrong'],
  ] as const) {
    await page.getByLabel('Name').fill(name)
    await page.getByLabel('Password').fill(password)
    await page.getByRole('button', { name: 'Sign in' }).click()
    await expect(page.getByRole('alert')).toHaveText(
      'Not signed in: name and password do not fit each other.',
    )
  }
  await page.getByLabel('Name').fill('Planner')
  await page.getByLabel('Password').fill('chart-and-pencil')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/sites\/gullhaven\/reach/)
  await expect(page.getByRole('heading', { name: 'Reach grid' })).toBeVisible()
})

test('the frame shows the stages, and what is not built leads nowhere', async ({ planner: page }) => {
  await page.goto('/')
  await page.getByRole('link', { name: 'Gullhaven Tidal Observatory' }).first().click()
  const mast = page.getByRole('navigation', { name: 'Stages' })
  for (const stage of ['Brief', 'Plan', 'Rehearse', 'Stage', 'Adopt', 'Prove', 'Hand over'])
    await expect(mast.getByRole('link', { name: stage, exact: true })).toBeVisible()
  for (const unbuilt of ['Drills', 'Logbook']) {
    await expect(mast.getByText(unbuilt, { exact: true })).toHaveAttribute('aria-disabled', 'true')
    await expect(mast.getByRole('link', { name: unbuilt, exact: true })).toHaveCount(0)
  }
  await expect(mast.getByText('not yet part of Able Mast')).toBeVisible()
  await expect(mast.getByText('1 blocker, 9 warnings')).toBeVisible()
  await expect(lookout(page).getByText('1 blocker, 9 warnings')).toBeVisible()
})

test('roles: a keeper reads, a rigger works, neither edits', async ({ page }) => {
  await signIn(page, 'Keeper')
  await page.goto('/sites/gullhaven/addresses')
  await expect(page.getByRole('grid', { name: 'Networks' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveCount(0)
  await page.getByRole('gridcell', { name: '10.61.1.1', exact: true }).dblclick()
  await expect(page.getByRole('textbox', { name: 'Gateway' })).toHaveCount(0)
  await expect(lookout(page).getByRole('button', { name: /^Tag 40/ })).toHaveCount(0)
  await page.goto('/sites/gullhaven/roster')
  await expect(page.getByText(/\d+ of 10 in sync/).first()).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Lab shelf' })).toHaveCount(0)
  await page.goto('/sites/gullhaven/prove')
  await expect(page.getByRole('button', { name: 'Run tests in the lab' })).toHaveCount(0)
})

test('everything can be reached by keys', async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/addresses`)
  await expect(page.getByRole('grid', { name: 'Networks' })).toBeVisible()
  for (const [letter, heading] of SHEET_KEYS) {
    await page.keyboard.press('g')
    await page.keyboard.press(letter)
    await expect(page.getByRole('heading', { name: heading, level: 1 })).toBeVisible()
  }
  await page.keyboard.press('?')
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible()
  await accessible(page)
  await page.keyboard.press('Escape')
  await page.keyboard.press('w')
  await expect(page.getByRole('heading', { name: 'Weather' })).toBeVisible()
  await accessible(page)
  await page.keyboard.press('Escape')
  await page.keyboard.press('.')
  await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Ports of Laboratory switch' })).toBeVisible()
  await page.keyboard.press('.')
  await expect(page.getByRole('tab', { name: 'DHCP' })).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Control+k')
  await page.getByRole('combobox', { name: 'Find or do' }).fill('skerry switch')
  await accessible(page)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Ports of Skerry switch' })).toBeVisible()
})

test('night watch keeps its contrast, and the Lookout folds', async ({ planner: page }) => {
  await page.goto('/sites/gullhaven/addresses')
  await page.getByRole('button', { name: 'Planner' }).click()
  await page.getByText('Night watch').click()
  await expect(page.locator('.v-application')).toHaveClass(/v-theme--night/)
  await page.keyboard.press('Escape')
  await expect(page.getByRole('list').getByText('Sign out')).toHaveCount(0)
  await accessible(page)
  await page.getByRole('button', { name: 'Fold the Lookout' }).click()
  await expect(lookout(page)).toHaveCount(0)
  await expect(page.getByText('Lookout, 1 blocking')).toBeVisible()
  await page.getByRole('button', { name: 'Open the Lookout' }).click()
  await expect(lookout(page)).toBeVisible()
})

test('the sheet is one key away, and focus comes back after a dialog', async ({ planner: page }) => {
  await page.goto('/sites/gullhaven/addresses')
  const opener = page.getByRole('button', { name: 'Assign subnets' })
  await expect(opener).toBeVisible()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'Skip to the sheet' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('main')).toBeFocused()
  await opener.click()
  await expect(page.getByRole('dialog', { name: 'Assign subnets' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(opener).toBeFocused()
  await page.keyboard.press('?')
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(opener).toBeFocused()
})

test('fonts and icons are the application’s own', async ({ planner: page }) => {
  await page.goto('/sites/gullhaven/addresses')
  await expect
    .poll(() =>
      page.evaluate(() =>
        [...document.fonts].filter((f) => f.status === 'loaded').map((f) => f.family.replaceAll('"', '')),
      ),
    )
    .toEqual(expect.arrayContaining(['Atkinson Hyperlegible Next', 'Atkinson Hyperlegible Mono']))
})

test('a site that is not there is told so', async ({ planner: page }) => {
  await page.goto('/sites/nowhere/addresses')
  await expect(page.getByRole('alert')).toContainText('there is no such site')
})

test('an address that leads nowhere is told so, in our own words and by keys back to the sites', async ({
  browser,
}) => {
  // A page that nobody watches for errors: that there is no such page is one.
  const page = await another(browser, 'Planner')
  for (const path of ['/sites/gullhaven/attic', '/attic']) {
    await page.goto(path)
    await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible()
    await accessible(page)
    await page.getByRole('button', { name: 'To the sites' }).press('Enter')
    await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible()
  }
})
