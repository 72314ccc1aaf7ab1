<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { intentsFromRules } from '#core/remedy'
import { useSelectors } from './selectors'
import { usePlan } from '~/stores/plan'
import { count } from '~/wording/findings'

/**
 * What the rules let through and no intent asks for yet, as intents; what something else withholds is shown
 * and left out.
 */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const pick = useSelectors()
const made = computed(() =>
  open.value && plan.draft ? intentsFromRules(plan.draft) : { intents: [], withheld: [] },
)
function take(): void {
  const intents = structuredClone(made.value.intents.map((i) => toRaw(i)))
  plan.edit(
    `${count(intents.length, 'intent')} taken from rules`,
    '',
    (draft) => void draft.intents.push(...(intents as typeof draft.intents)),
  )
  open.value = false
}
</script>

<template>
  <AppDialog v-model="open" :width="860" title="Intents from rules">
    <p class="soft">
      What the rules let through and no intent asks for. Take it only where it is meant: an intent is what the
      rules are judged by from then on.
    </p>
    <VTable v-if="made.intents.length + made.withheld.length > 0" class="ruled">
      <thead>
        <tr>
          <th />
          <th>From</th>
          <th>To</th>
          <th>Services</th>
          <th>Note of the rule</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="i in made.intents" :key="i.id">
          <td>new</td>
          <td>{{ pick.words(i.from) }}</td>
          <td>{{ pick.words(i.to) }}</td>
          <td>{{ pick.serviceWords(i.services) }}</td>
          <td class="small">{{ i.note }}</td>
        </tr>
        <tr v-for="i in made.withheld" :key="i.id" class="trouble">
          <td>left out: does not pass whole</td>
          <td>{{ pick.words(i.from) }}</td>
          <td>{{ pick.words(i.to) }}</td>
          <td>{{ pick.serviceWords(i.services) }}</td>
          <td class="small">{{ i.note }}</td>
        </tr>
      </tbody>
    </VTable>
    <p v-else>Nothing: all that the rules let through is asked for.</p>
    <template #actions>
      <VBtn variant="flat" :disabled="made.intents.length === 0" @click="take">
        Add {{ count(made.intents.length, 'intent') }}
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
td {
  white-space: normal;
}
</style>
