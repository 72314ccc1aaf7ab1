import { useEventListener } from '@vueuse/core'
import { SHEETS } from './sheets'
import { usePointer } from './finding-navigation'
import { usePreferences } from '~/stores/preferences'
import { usePlan } from '~/stores/plan'

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
/** How long `g` waits for its letter, from when it was heard: a busy page hears late. */
const G_WAITS_MS = 2500

/** The keys that work everywhere in a site. */
export function useKeys(): void {
  const preferences = usePreferences()
  const plan = usePlan()
  const { step } = usePointer()
  let gAt = -Infinity

  function command(event: KeyboardEvent): boolean {
    const key = event.key.toLowerCase()
    if (key === 'k') preferences.dialog = 'find'
    else if (key === 'z' && !typing(event.target)) event.shiftKey ? plan.redo() : plan.undo()
    else if (key === 'y' && !typing(event.target)) plan.redo()
    else return false
    return true
  }

  /** A field or a dialog has the keys to itself. */
  const isTaken = ({ target }: KeyboardEvent) =>
    typing(target) ||
    preferences.dialog !== 'none' ||
    (target instanceof Element && target.closest('.v-overlay--active[role="dialog"]') !== null)

  /** The letter after `g`, before a table takes it for one of its own. */
  function hearSecond(event: KeyboardEvent): void {
    if (event.timeStamp - gAt >= G_WAITS_MS || isTaken(event)) return
    const sheet = SHEETS.find(({ shortcut }) => shortcut === event.key)
    gAt = -Infinity
    if (!sheet) return
    event.preventDefault()
    event.stopPropagation()
    void navigateTo(`/sites/${plan.slug}/${sheet.key}`)
  }

  function letter(event: KeyboardEvent): boolean {
    if (isTaken(event)) return false
    switch (event.key) {
      case 'g':
        gAt = performance.now()
        return true
      case 'w':
        preferences.dialog = 'weather'
        return true
      case '?':
        preferences.dialog = 'help'
        return true
      case '.':
      case ',':
        void step(event.key === '.' ? 1 : -1)
        return true
      default:
        return false
    }
  }

  function hear(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.altKey) return
    if (event.ctrlKey || event.metaKey ? command(event) : letter(event)) event.preventDefault()
  }
  useEventListener('keydown', hearSecond, { capture: true })
  useEventListener('keydown', hear)
}
