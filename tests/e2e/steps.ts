import { expect, type Locator, type Page } from '@playwright/test'
import { cell, choose } from './fixtures'

/**
 * A person at work, whose actions are counted: a click, a text that is typed, a shortcut; a choice from a list and
 * a cell of a table, which is opened first, are two.
 */
export class Steps {
  private taken = 0

  constructor(private readonly page: Page) {}

  get count(): number {
    return this.taken
  }

  async click(target: Locator): Promise<void> {
    this.taken++
    await target.click()
  }

  /** Clicks a button of that name. */
  async press(name: string | RegExp, scope: Page | Locator = this.page): Promise<void> {
    await this.click(scope.getByRole('button', { name, exact: typeof name === 'string' }))
  }

  /** Types into a field of that name. */
  async type(name: string | RegExp, text: string, scope: Page | Locator = this.page): Promise<void> {
    this.taken++
    await scope.getByRole('textbox', { name, exact: typeof name === 'string' }).fill(text)
  }

  /** Types into a field that has a list of its own. */
  async seek(name: string, text: string): Promise<void> {
    this.taken++
    await this.page.getByRole('combobox', { name, exact: true }).fill(text)
  }

  async choose(list: string, choice: string | RegExp, scope: Page | Locator = this.page): Promise<void> {
    this.taken += 2
    await choose(scope, list, choice)
  }

  /** Goes to a sheet by its two keys. */
  async go(letter: string): Promise<void> {
    this.taken += 2
    await this.page.keyboard.press('g')
    await this.page.keyboard.press(letter)
  }

  /** Types into a cell of a table, by what stands in its row and the number of its column. */
  async cell(table: string, text: string, column: number, value: string): Promise<void> {
    await this.typeIn(cell(this.page, table, text, column), value)
  }

  /** Chooses in a cell that has a list of its own. */
  async pick(target: Locator, list: string, choice: string): Promise<void> {
    this.taken += 2
    await target.dblclick()
    await this.page.getByRole('combobox', { name: list, exact: true }).selectOption(choice)
    await this.page.keyboard.press('Enter')
  }

  /** Types into a cell. */
  async typeIn(target: Locator, value: string): Promise<void> {
    this.taken += 2
    await target.dblclick()
    await this.page.keyboard.press('Control+A')
    await this.page.keyboard.type(value)
    await this.page.keyboard.press('Enter')
  }
}

/** The same by keys alone: each key that is pressed counts, and so does each letter that is typed. */
export class Keys {
  private pressed = 0

  constructor(private readonly page: Page) {}

  get count(): number {
    return this.pressed
  }

  async press(...keys: readonly string[]): Promise<void> {
    for (const key of keys) {
      this.pressed++
      await this.page.keyboard.press(key)
    }
  }

  async type(text: string): Promise<void> {
    this.pressed += text.length
    await this.page.keyboard.type(text)
  }

  /** Presses a key until something has the focus, which may have to come into being first. */
  async pressTo(key: string, target: Locator, most = 20): Promise<void> {
    const hasFocus = () => target.and(this.page.locator(':focus')).count()
    for (let i = 0; i < most && (await hasFocus()) === 0; i++) {
      const before = await this.page.evaluateHandle(() => document.activeElement)
      await this.press(key)
      // As a person looks where it went before pressing again.
      await this.page
        .waitForFunction((element) => document.activeElement !== element, before, { timeout: 1000 })
        .catch(() => undefined)
      if ((await target.count()) === 0) await this.page.waitForTimeout(200)
    }
    await expect(target).toBeFocused()
  }

  /** Goes on with Tab until something has the focus. */
  tabTo(target: Locator): Promise<void> {
    return this.pressTo('Tab', target)
  }

  /** Finds or does something by its name. */
  async find(text: string, ...then: readonly string[]): Promise<void> {
    await this.press('Control+k')
    await expect(this.page.getByRole('combobox', { name: 'Find or do' })).toBeFocused()
    await this.type(text)
    await this.press('Enter', ...then)
  }
}
