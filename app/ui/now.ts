/** This machine's time, moved on each second while somebody looks. */
export function useNow(): Readonly<Ref<number>> {
  const nowMs = ref(Date.now())
  const clock = setInterval(() => (nowMs.value = Date.now()), 1000)
  onScopeDispose(() => clearInterval(clock))
  return nowMs
}
