import { accessible, cell, choose, lookout, test, expect } from './fixtures'

test.describe('Uplinks', () => {
  test('says what a failure costs, plays it, and finds settings for a wish', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await expect(
      page
        .getByText(
          'When Fibre dies, traffic is on 5G after 11 to 16 s, 13.5 s on average. 75 to 80 s ' +
            'after it is well, traffic returns.',
        )
        .last(),
    ).toBeVisible()
    await accessible(page)
    await expect(
      page.getByRole('row', { name: /^Guests reach the internet and nothing else/ }),
    ).toContainText('down until Fibre is back')
    await expect(page.getByRole('row', { name: /^Voice keeps working with the fibre down/ })).toContainText(
      'works',
    )
    await choose(page, 'Play at', '100×')
    await page.getByRole('button', { name: 'Play it' }).click()
    await expect(
      page.getByText(
        /Played: on 5G after \d+(\.\d)? s \(planned 11 s to 16 s\), back \d+(\.\d)? s after it was well\./,
      ),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Save as a proof record' }).click()
    await expect(page.getByText('Kept with the acceptance tests.')).toBeVisible()
    await page.getByRole('button', { name: 'Simulate' }).click()
    await expect(page.getByText(/alarms? in 3,000,000 rounds|± [\d,]+ rounds/)).toBeVisible()
    await page.getByLabel('Longest outage, s').fill('12')
    await page.getByLabel('Longest outage, s').press('Tab')
    await expect(
      lookout(page).getByRole('button', { name: 'Fibre: change-over later than asked' }),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Use it' }).click()
    await expect(
      lookout(page).getByRole('button', { name: 'Fibre: change-over later than asked' }),
    ).toHaveCount(0)
  })

  test('uplinks change places by their buttons, and the other becomes the spare', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await page.getByRole('button', { name: 'Fibre later' }).click()
    await expect(page.getByRole('button', { name: '1 · 5G', exact: true })).toBeVisible()
    await expect(page.getByText('is not probed').first()).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByRole('button', { name: '1 · Fibre', exact: true })).toBeVisible()
    const card = (name: string) => page.locator('.lines li', { hasText: name }).locator('.head')
    await card('Fibre').dragTo(card('5G'))
    await expect(page.getByRole('button', { name: '1 · 5G', exact: true })).toBeVisible()
  })

  test('two uplinks of one order share what goes out; weights can follow the speeds', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await page.getByRole('tab', { name: 'Standby and shared risks' }).click()
    await cell(page, 'Standby and shared risks', '5G', 1).dblclick()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('1')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: '1 · Fibre, 50 % of new flows' })).toBeVisible()
    await lookout(page).getByRole('button', { name: 'Share by speed' }).click()
    // 500 and 80 Mb/s: ten tenths and two.
    await expect(page.getByRole('button', { name: '1 · Fibre, 83 % of new flows' })).toBeVisible()
    await accessible(page)
  })

  test('a port forward and a choice of uplink are added, typed and removed', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await page.getByRole('tab', { name: /Port forwards/ }).click()
    await page.getByRole('button', { name: 'Add a forward' }).click()
    const forwards = page.getByRole('grid', { name: 'Port forwards' })
    await forwards.getByRole('gridcell', { name: '8443' }).dblclick()
    await page.keyboard.type('70000')
    await expect(page.getByRole('alert').filter({ hasText: '70000' })).toBeVisible()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('9443')
    await page.keyboard.press('Enter')
    await expect(forwards.getByRole('gridcell', { name: '9443' })).toBeVisible()
    await expect(
      lookout(page).getByRole('button', { name: 'What comes in from outside dies with Fibre' }),
    ).toBeVisible()
    // By the outside address nobody inside gets through before the forward says so, and then as far as the
    // rules let him.
    const inside = page.getByRole('row', { name: /^tcp 9443/ })
    await expect(inside).toContainText('nobody')
    await expect(inside).toContainText('Guests: the forward is for calls from outside alone')
    await forwards.getByRole('gridcell', { name: 'no', exact: true }).dblclick()
    await forwards.getByRole('combobox', { name: 'From inside' }).selectOption('too')
    await page.keyboard.press('Enter')
    await expect(inside).toContainText('Staff: some hosts tcp 9443')
    await expect(inside).toContainText('Guests: stopped by a rule')
    await forwards.getByRole('button', { name: /^Remove/ }).click()
    await expect(forwards.getByRole('gridcell', { name: '9443' })).toHaveCount(0)
    await page.getByRole('tab', { name: /Policy routes/ }).click()
    await expect(
      page.getByRole('gridcell', { name: 'Guests wait while the fibre is down', exact: true }),
    ).toBeVisible()
  })
})
