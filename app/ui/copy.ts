import type { Ref } from 'vue'

/** Copies a text, and says so until the text is another. */
export function useCopy(text: Readonly<Ref<string>>) {
  const copied = ref(false)
  async function copy(): Promise<void> {
    copied.value = await navigator.clipboard.writeText(text.value).then(
      () => true,
      () => false,
    )
  }
  watch(text, () => (copied.value = false))
  return { copied, copy }
}
