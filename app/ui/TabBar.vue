<script setup lang="ts">
/** The parts of a sheet, one shown at a time. Arrow keys move between them. */
export interface Part {
  readonly key: string
  readonly name: string
  /** Shown after the name: how many, or how far. */
  readonly tally?: string
}
const props = defineProps<{ parts: readonly Part[]; label: string }>()
const shown = defineModel<string>({ required: true })
const root = useTemplateRef<HTMLElement>('root')

async function step(by: number): Promise<void> {
  const now = props.parts.findIndex((p) => p.key === shown.value)
  const next = props.parts[(now + by + props.parts.length) % props.parts.length]
  if (!next) return
  shown.value = next.key
  await nextTick()
  root.value?.querySelector<HTMLElement>('[aria-selected="true"]')?.focus()
}
</script>

<template>
  <div
    ref="root"
    class="tabs"
    role="tablist"
    :aria-label="label"
    @keydown.right.prevent="step(1)"
    @keydown.left.prevent="step(-1)"
  >
    <button
      v-for="part in parts"
      :id="`tab-${part.key}`"
      :key="part.key"
      type="button"
      role="tab"
      class="plain"
      :aria-selected="part.key === shown"
      :tabindex="part.key === shown ? 0 : -1"
      @click="shown = part.key"
    >
      {{ part.name }} <span v-if="part.tally" class="soft small">{{ part.tally }}</span>
    </button>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 0;
  border-bottom: 1px solid var(--ink);
  margin-bottom: 10px;
}
button {
  padding: 4px 12px 5px;
  border-bottom: 3px solid transparent;
}
button:hover {
  background: var(--shallow);
}
button[aria-selected='true'] {
  border-bottom-color: var(--deep);
  font-weight: 700;
  color: var(--deep);
}
@media (max-width: 899px) {
  button {
    min-height: 44px;
  }
}
</style>
