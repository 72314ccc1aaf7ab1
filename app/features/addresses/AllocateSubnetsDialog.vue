<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { sizeOf } from '#core/address'
import { layAllotments, proposeSubnets, type Allotment } from '#core/edit'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { useTimestamp } from '@vueuse/core'
import { count } from '~/wording/findings'

/** From needs to subnets: what each would get, what stays and why; nothing is laid before it is looked at. */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const site = useSite()
const nowMs = useTimestamp({ interval: 1000 })
const move = ref(false)
const moveAdopted = ref(false)

const adopted = computed(
  () =>
    new Set(
      (site.roster?.rows ?? [])
        .filter((r) => site.stateOf(r, nowMs.value) === 'in-sync')
        .map((r) => r.deviceId),
    ),
)
const rows = computed(() =>
  plan.draft
    ? proposeSubnets(plan.draft, { move: move.value, moveAdopted: moveAdopted.value, adopted: adopted.value })
    : [],
)
const left = ref(new Set<string>())
const keyOf = (a: Allotment) => a.networkId ?? `need ${a.needId}`
const moves = (a: Allotment) => a.what === 'new' || a.what === 'moved'
const chosen = computed(() => rows.value.filter((a) => moves(a) && !left.value.has(keyOf(a))))
function toggle(allotment: Allotment): void {
  const next = new Set(left.value)
  if (!next.delete(keyOf(allotment))) next.add(keyOf(allotment))
  left.value = next
}
const policy = computed({
  get: () => plan.draft?.site.subnetPolicy ?? 'octet',
  set: (value) =>
    plan.edit(
      value === 'octet' ? 'subnets by VLAN number' : 'subnets by best fit',
      '',
      (draft) => void (draft.site.subnetPolicy = value),
    ),
})
/** Addresses that are left for growth beyond what is asked. */
const left_ = (allotment: Allotment) =>
  allotment.after === null ? '—' : String(sizeOf(Number(allotment.after.split('/')[1])) - 3 - allotment.hosts)
const WHAT = { new: 'new', kept: 'stays', moved: 'moves', 'no-room': 'no room' } as const
const why = (allotment: Allotment) => {
  if (allotment.held === 'pinned') return 'chosen by hand'
  if (allotment.held === 'adopted') return `${count(allotment.adopted, 'device')} adopted`
  if (allotment.what === 'moved' && allotment.adopted > 0)
    return `${count(allotment.adopted, 'adopted device')} would move`
  return ''
}
function lay(): void {
  plan.change(`subnets given: ${count(chosen.value.length, 'network')}`, '', (now) =>
    layAllotments(now, chosen.value),
  )
  open.value = false
}
</script>

<template>
  <AppDialog v-model="open" :width="860" title="Assign subnets">
    <p class="soft">
      Sizes come from the devices needed and their growth, places from the policy. What is chosen by hand
      stays, and so does what is adopted, unless you say otherwise.
    </p>
    <div class="row">
      <VSelect
        label="Policy"
        v-model="policy"
        :items="[
          { value: 'octet', title: 'VLAN number as third octet, a /24 at least' },
          { value: 'best-fit', title: 'best fit: the tightest gap, largest left whole' },
        ]"
      />
      <VCheckbox v-model="move" label="find better places for networks that have one" />
      <VCheckbox v-if="move" v-model="moveAdopted" label="also where devices are adopted already" />
    </div>
    <div class="list">
      <VTable class="ruled">
        <thead>
          <tr>
            <th />
            <th>Network</th>
            <th class="num">VLAN</th>
            <th class="num">Hosts</th>
            <th class="num">Left</th>
            <th>Now</th>
            <th>Then</th>
            <th>What</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="a in rows"
            :key="keyOf(a)"
            :class="{ trouble: a.what === 'no-room' || (a.what === 'moved' && a.adopted > 0) }"
          >
            <td>
              <VCheckbox
                v-if="moves(a)"
                :model-value="!left.has(keyOf(a))"
                :aria-label="`Apply ${a.name}`"
                @update:model-value="toggle(a)"
              />
            </td>
            <td>
              <b>{{ a.name }}</b>
            </td>
            <td class="num mono">{{ a.vlan }}</td>
            <td class="num mono">{{ a.hosts }}</td>
            <td class="num mono">{{ left_(a) }}</td>
            <td class="mono">{{ a.before ?? '—' }}</td>
            <td class="mono">{{ a.after ?? '—' }}</td>
            <td>
              {{ WHAT[a.what] }} <span class="small soft">{{ why(a) }}</span>
            </td>
          </tr>
        </tbody>
      </VTable>
    </div>
    <template #actions>
      <VBtn variant="flat" :disabled="chosen.length === 0" @click="lay">
        {{ chosen.length === 0 ? 'Nothing to apply' : `Apply ${count(chosen.length, 'network')}` }}
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: end;
}
.tick {
  display: flex;
  gap: 6px;
  align-items: center;
  padding-bottom: 5px;
}
.list {
  overflow: auto;
}
tr.trouble td {
  background: var(--trouble);
}
</style>
