<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { adviceFor, termsOf } from '#core/ipsec'
import { BLANK_IPSEC, freshId } from '#core/edit'
import type { IpsecEnd } from '#core/schema'
import SheetTable from '~/ui/SheetTable.vue'
import { PARAMETERS, useIpsecColumns } from './ipsec-columns'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'

/**
 * What both ends of an IPsec connection must be set to, side by side.
 * Able Mast runs none; each administrator types their column in.
 */
const plan = usePlan()
const session = useSession()
const links = computed(() => plan.draft?.ipsec ?? [])
const chosen = ref('')
const link = computed(() => links.value.find((l) => l.id === chosen.value) ?? links.value[0])
const columns = useIpsecColumns(() => link.value)
const terms = computed(() => link.value && termsOf(link.value))
const outdated = (end: IpsecEnd) =>
  [...adviceFor(end.ike, 'ike'), ...adviceFor(end.esp, 'esp')].map((a) => a.name)
const ROW_OF = {
  subnets: 'subnets',
  auth: 'auth',
  'nobody-starts': 'starts',
  'nowhere-to-call': 'address',
  'same-identity': 'identity',
} as const
/** Rows whose values keep the ends apart, or are outdated. */
const trouble = (row: { readonly id: string }, key: string) => {
  const now = link.value
  if (!now || !terms.value || key === 'name') return false
  const apart = terms.value.disagreements.some(
    (d) => row.id === (d.kind === 'no-common' ? `${d.use}-${d.what}` : ROW_OF[d.kind]),
  )
  const shown = PARAMETERS.find((p) => p.id === row.id)?.get(key === 'ours' ? now.ours : now.theirs) ?? ''
  return (
    apart ||
    outdated(key === 'ours' ? now.ours : now.theirs).some(
      (name) =>
        /^(ike|esp)-/.test(row.id) && shown.split(', ').some((x) => x === name || `group ${x}` === name),
    )
  )
}
function add(): void {
  const gateway = plan.draft?.devices.find((d) => d.kind === 'gateway')
  if (!plan.draft || !gateway) return
  const id = freshId(plan.draft.ipsec, 'ipsec')
  plan.edit(
    'IPsec connection added',
    '',
    (draft) =>
      void draft.ipsec.push(
        structuredClone({
          id,
          name: `Connection ${draft.ipsec.length + 1}`,
          deviceId: gateway.id,
          ours: { ...BLANK_IPSEC, starts: true },
          theirs: BLANK_IPSEC,
        }) as never,
      ),
  )
  chosen.value = id
}
function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim().slice(0, 60)
  const id = link.value?.id
  if (name !== '')
    plan.edit(`connection named ${name}`, `ipsec ${id}`, (draft) => {
      for (const connection of draft.ipsec) if (connection.id === id) connection.name = name
    })
}
const remove = () =>
  plan.edit(
    `${link.value?.name} removed`,
    '',
    (d) => void (d.ipsec = d.ipsec.filter((l) => l.id !== link.value?.id)),
  )

/** The sheet for the other administrator: their column first. */
const sheet = computed(() => {
  const now = link.value
  return now
    ? [
        `${now.name}, IPsec (IKEv2)`,
        '',
        ...PARAMETERS.map((p) => `${p.name}: yours ${p.get(now.theirs)}; ours ${p.get(now.ours)}`),
        '',
        'The pre-shared key, where there is one, is told by telephone.',
      ].join('\n')
    : ''
})
const { copied, copy } = useClipboard({ source: sheet, legacy: true })
</script>

<template>
  <div>
    <div class="top">
      <VSelect
        v-if="links.length > 1"
        label="Connection"
        v-model="chosen"
        :items="links"
        item-value="id"
        item-title="name"
      />
      <VTextField
        v-if="link"
        label="Name"
        :model-value="link.name"
        :readonly="!session.edits"
        @change="rename"
      />
      <span class="tools">
        <VBtn v-if="link" @click="copy()">
          {{ copied ? 'Copied' : 'Copy the sheet for the other end' }}
        </VBtn>
        <VBtn v-if="session.edits" @click="add">Add a connection</VBtn>
        <VBtn v-if="session.edits && link" @click="remove">
          Remove<span class="sr"> {{ link.name }}</span>
        </VBtn>
      </span>
    </div>
    <template v-if="link && terms">
      <p v-if="terms.agreed" class="small">
        <b>The ends fit.</b> Key exchange: <span class="mono">{{ terms.agreed.ike }}</span>. Data:
        <span class="mono">{{ terms.agreed.esp }}</span>.
      </p>
      <p v-else class="small wrong-words">
        The ends do not fit in
        {{ terms.disagreements.length === 1 ? 'one point' : `${terms.disagreements.length} points` }}: the
        rows that are marked, and the Lookout.
      </p>
      <SheetTable
        :columns="columns"
        :rows="PARAMETERS"
        label="IPsec parameters"
        ordered
        :name-of="(p) => p.name"
        :readonly="!session.edits"
        :trouble="trouble"
      />
      <p class="small soft">
        Names are IANA’s; advice is that of RFC 8221 and RFC 8247. Lifetimes need not be alike: each end
        renews by its own.
      </p>
    </template>
    <p v-else class="soft">
      No IPsec connection. It is a sheet for both ends: what each administrator types in, and whether that
      fits.
    </p>
  </div>
</template>

<style scoped>
.top > .v-input {
  flex: 0 1 220px;
}
p.small {
  margin-bottom: 6px;
}
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-bottom: 8px;
}
.tools {
  margin-left: auto;
  display: flex;
  gap: 8px;
}
</style>
