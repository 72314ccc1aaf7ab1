<script setup lang="ts">
import { nextUplink, uplinkGroup, uplinksInOrder } from '#core/queries'
import FailurePanel from './FailurePanel.vue'
import UplinkCards from './UplinkCards.vue'
import UplinkTables from './UplinkTables.vue'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import UndoRedo from '~/ui/UndoRedo.vue'
import { count } from '~/wording/findings'

/** The lines in their order, what a failure of each costs in time, and who takes which. */
const plan = usePlan()
const { place } = usePointer()
const uplinks = computed(() => (plan.draft ? uplinksInOrder(plan.draft) : []))
const chosen = ref('')
const uplink = computed(() => uplinks.value.find((u) => u.id === chosen.value) ?? uplinks.value[0])
const backup = computed(() => uplink.value && nextUplink(uplinks.value, uplink.value))
const sharing = computed(() => (uplinks.value[0] ? uplinkGroup(uplinks.value, uplinks.value[0]) : []))
watch(
  place,
  ([list, id]) => {
    if (list === 'uplinks' && id) chosen.value = id
  },
  { immediate: true },
)
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Uplinks</h1>
      <span class="tools"><UndoRedo /></span>
      <p>
        {{ count(uplinks.length, 'uplink') }}.
        {{
          sharing.length > 1
            ? `The first ${sharing.length} share what goes out, by weight.`
            : 'The first in the list carries the site; drag to change, or give two the same order to share.'
        }}
        Their facts stand in the Brief.
      </p>
    </header>
    <p v-if="uplinks.length === 0" class="soft">No uplink yet. Add one in the Brief.</p>
    <UplinkCards :chosen="uplink?.id ?? ''" @update:chosen="(id) => (chosen = id)" />
    <FailurePanel v-if="uplink && backup" :uplink="uplink" :backup="backup" />
    <UplinkTables :uplink="uplink" />
  </section>
</template>
