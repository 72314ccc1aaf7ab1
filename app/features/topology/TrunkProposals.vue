<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { trunkConversions, trunkProposals } from '#core/layer2'
import type { Change, Json } from '#core/edit'
import type { PortMode } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { count } from '~/wording/findings'
import { namesIn } from '~/wording/names'

/**
 * The least each trunk must carry for every edge to be served: what is added, what is pruned, port by port.
 */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const proposals = computed(() => {
  if (!open.value || !plan.index) return []
  const none = new Set<string>()
  return [...trunkConversions(plan.index, none), ...trunkProposals(plan.index, none)]
})
const wasText = ({ mode }: PortMode) => (mode === 'trunk' ? '' : `${mode} until now`)
const nativeText = (mode: PortMode) => (mode.mode === 'trunk' ? String(mode.native ?? 'none') : '')
const names = computed(() => plan.draft && namesIn(plan.draft))
const left = ref(new Set<string>())
watch(open, () => (left.value = new Set()))
const keyOf = (p: (typeof proposals.value)[number]) => `${p.port.deviceId}/${p.port.portId}`
function toggle(key: string): void {
  const next = new Set(left.value)
  if (!next.delete(key)) next.add(key)
  left.value = next
}
const chosen = computed(() => proposals.value.filter((p) => !left.value.has(keyOf(p))))
function lay(): void {
  const changes = chosen.value.map((proposal): Change => ({
    kind: 'set',
    path: ['devices', proposal.port.deviceId, 'ports', proposal.port.portId, 'mode'],
    before: proposal.before as unknown as Json,
    after: proposal.after as unknown as Json,
  }))
  if (plan.apply(`trunks mended: ${count(changes.length, 'port')}`, changes)) open.value = false
}
</script>

<template>
  <AppDialog v-model="open" :width="760" title="Mend trunks">
    <p class="soft">
      What each trunk must carry so that every host, SSID and device beyond it is served, also by the cables
      that stand in for others; and what it carries for nobody. An access port that more than one VLAN must
      pass becomes a trunk.
    </p>
    <p v-if="proposals.length === 0">Every trunk carries what is needed and nothing else.</p>
    <VTable v-else class="ruled">
      <thead>
        <tr>
          <th />
          <th>Port</th>
          <th>Add</th>
          <th>Prune</th>
          <th class="num">Native</th>
          <th>Then tagged</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in proposals" :key="keyOf(p)">
          <td>
            <VCheckbox
              :model-value="!left.has(keyOf(p))"
              :aria-label="`${names?.device(p.port.deviceId)} ${names?.port(p.port)}`"
              @update:model-value="toggle(keyOf(p))"
            />
          </td>
          <td>
            <b>{{ names?.device(p.port.deviceId) }}</b> {{ names?.port(p.port) }}
            <span class="small soft">{{ wasText(p.before) }}</span>
          </td>
          <td class="mono">{{ p.add.join(' ') || '—' }}</td>
          <td class="mono">{{ p.prune.join(' ') || '—' }}</td>
          <td class="mono num">{{ nativeText(p.after) }}</td>
          <td class="mono">
            {{ p.after.mode === 'trunk' && p.after.tagged !== 'all' ? p.after.tagged.join(' ') : '' }}
          </td>
        </tr>
      </tbody>
    </VTable>
    <template #actions>
      <VBtn variant="flat" :disabled="chosen.length === 0" @click="lay">
        {{ chosen.length === 0 ? 'Nothing to mend' : `Mend ${count(chosen.length, 'port')}` }}
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>
