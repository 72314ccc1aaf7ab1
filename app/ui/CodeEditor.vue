<script setup lang="ts">
import { useTimeoutFn } from '@vueuse/core'
import type { Completer, TextEditor, TextMistake } from './code/editor'
import type { Grammar } from './code/languages'

/**
 * A text in a grammar: numbered lines, search (Ctrl F), folding, mistakes at their place.
 * The editor itself is fetched a moment after, or as soon as somebody comes near; until then the text stands as it is.
 */
const props = withDefaults(
  defineProps<{
    label: string
    grammar: Grammar
    readonly?: boolean
    placeholder?: string
    mistakes?: readonly TextMistake[]
    complete?: Completer
  }>(),
  { readonly: false, placeholder: '', mistakes: () => [], complete: undefined },
)
const text = defineModel<string>({ required: true })
const place = useTemplateRef('place')
const editor = shallowRef<TextEditor | null>(null)
let left = false

/** Time in which the sheet around it is there first. */
const LATER_MS = 500
async function load(focuses: boolean): Promise<void> {
  stop()
  const { openEditor } = await import('./code/editor')
  if (left || editor.value || !place.value) return
  editor.value = openEditor({
    parent: place.value,
    text: text.value,
    label: props.label,
    grammar: props.grammar,
    readonly: props.readonly,
    placeholder: props.placeholder,
    complete: props.complete,
    typed: (typed) => void (text.value = typed),
  })
  editor.value.setMistakes(props.mistakes)
  if (focuses) editor.value.focus()
}
const { stop } = useTimeoutFn(() => void load(false), LATER_MS)
onBeforeUnmount(() => {
  left = true
  editor.value?.close()
})
watch(text, (now) => editor.value?.setText(now))
watch(
  () => props.readonly,
  (now) => editor.value?.setReadonly(now),
)
watch([() => props.grammar, () => props.label], ([grammar, label]) =>
  editor.value?.setGrammar(grammar, label),
)
watch(
  () => props.mistakes,
  (mistakes) => editor.value?.setMistakes(mistakes),
  { flush: 'post' },
)
</script>

<template>
  <div ref="place" class="place">
    <pre
      v-if="!editor"
      class="mono"
      tabindex="0"
      role="group"
      :aria-label="label"
      @pointerenter="load(false)"
      @focus="load(true)"
      >{{ text }}</pre>
  </div>
</template>

<style scoped>
.place {
  min-width: 0;
  margin: 6px 0;
}
pre {
  margin: 0;
  padding: 6px 12px;
  min-height: 80px;
  max-height: 62vh;
  overflow: auto;
  background: var(--panel);
  border: 1px solid var(--line);
  font-size: 12px;
  line-height: 18px;
}
</style>
