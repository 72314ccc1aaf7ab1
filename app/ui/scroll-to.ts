/** Whether an element's content is scrolled in it, by the person and not by chance. */
const isScroller = (element: Element): boolean =>
  /auto|scroll/.test(getComputedStyle(element).overflowY) && element.scrollHeight > element.clientHeight

/** Brings an element to the top of what it scrolls in; nothing else moves, and it has the focus. */
export function showAtTop(element: HTMLElement): void {
  let around: Element | null = element.parentElement
  while (around && !isScroller(around)) around = around.parentElement
  const by = element.getBoundingClientRect().top - (around?.getBoundingClientRect().top ?? 0)
  around?.scrollBy({ top: by - MARGIN_PX })
  element.focus({ preventScroll: true })
}
/** Left above it, so that what stands over it is in sight. */
const MARGIN_PX = 40
