<script setup lang="ts">
import StatusFlag, { type FlagState } from '~/ui/StatusFlag.vue'
import SeverityIcon from '~/ui/SeverityIcon.vue'
import type { SheetHelp } from './sheet'
import { sheetNamed, SHEETS } from './sheets'
import { usePreferences } from '~/stores/preferences'
import { useFocusReturn } from '~/ui/focus-return'

const props = defineProps<{ sheet: string }>()
const preferences = usePreferences()
useFocusReturn(computed(() => preferences.dialog === 'help'))
const shown = computed(() => sheetNamed(props.sheet))
const found = import.meta.glob<SheetHelp>('../features/*/help.ts', { eager: true, import: 'default' })
const lines = computed(() => Object.values(found).find(({ sheet }) => sheet === props.sheet)?.lines ?? [])
const KEYS: readonly (readonly [string, string])[] = [
  ...SHEETS.map((s) => [`g ${s.shortcut}`, s.name] as const),
  ['Ctrl K', 'find or do'],
  ['w', 'weather'],
  ['.', 'next finding'],
  [',', 'previous finding'],
  ['e', 'edit the cell in focus'],
  ['Ctrl Z', 'undo'],
  ['Ctrl Shift Z', 'redo'],
  ['?', 'this list'],
]
const TABLE: readonly (readonly [string, string])[] = [
  ['arrows', 'move from cell to cell'],
  ['Enter', 'edit, then keep'],
  ['Esc', 'leave the field as it was'],
  ['Tab', 'keep and go on'],
  ['s', 'sort by the column in focus'],
  ['↓ Enter', 'in a text of names: choose from its list'],
  ['Ctrl V', 'paste cells from a spreadsheet'],
]
const FLAGS: readonly (readonly [FlagState, string])[] = [
  ['full', 'proven by observation'],
  ['outline', 'predicted by the engine'],
  ['cut', 'against the intent, or failed'],
  ['half', 'blocked, waiting'],
  ['bare', 'nothing known yet'],
]
const MARKS = [
  ['blocker', 'must be mended first'],
  ['warning', 'will hurt sooner or later'],
  ['note', 'good to know'],
] as const
</script>

<template>
  <VDialog
    aria-label="Keys and pictures"
    :model-value="preferences.dialog === 'help'"
    width="820"
    @update:model-value="preferences.dialog = 'none'"
  >
    <VCard>
      <VCardText class="dialog-text help">
        <section v-if="lines.length > 0" class="whole">
          <h2>{{ shown?.name }}</h2>
          <ul>
            <li v-for="line in lines" :key="line">{{ line }}</li>
          </ul>
        </section>
        <section>
          <h2>Keys</h2>
          <dl>
            <template v-for="[key, what] in KEYS" :key="key"
              ><dt class="mono">{{ key }}</dt>
              <dd>{{ what }}</dd></template
            >
          </dl>
        </section>
        <section>
          <h2>In tables</h2>
          <dl>
            <template v-for="[key, what] in TABLE" :key="key"
              ><dt class="mono">{{ key }}</dt>
              <dd>{{ what }}</dd></template
            >
          </dl>
          <h2>Pennants</h2>
          <dl>
            <template v-for="[state, what] in FLAGS" :key="state"
              ><dt><StatusFlag :state="state" /></dt>
              <dd>{{ what }}</dd></template
            >
          </dl>
          <h2>Findings</h2>
          <dl>
            <template v-for="[severity, what] in MARKS" :key="severity"
              ><dt><SeverityIcon :severity="severity" /></dt>
              <dd>{{ severity }}: {{ what }}</dd></template
            >
          </dl>
        </section>
        <VBtn @click="preferences.dialog = 'none'">Close</VBtn>
      </VCardText>
    </VCard>
  </VDialog>
</template>

<style scoped>
.help.dialog-text {
  grid-template-columns: 1fr 1fr;
  gap: 12px 32px;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 3px 8px;
  margin: 4px 0 12px;
}
dd {
  margin: 0;
}
.whole {
  grid-column: 1 / -1;
}
.whole ul {
  margin: 4px 0 0;
  padding-left: 18px;
  columns: 2;
  column-gap: 32px;
}
.whole li {
  break-inside: avoid;
  margin-bottom: 3px;
}
.v-btn {
  justify-self: start;
}
@media (max-width: 899px) {
  .help.dialog-text {
    grid-template-columns: 1fr;
  }
  .whole ul {
    columns: 1;
  }
}
</style>
