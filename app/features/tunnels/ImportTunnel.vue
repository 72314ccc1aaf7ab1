<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import type { Problem } from '#core/util'
import { readWireguardConf } from '#core/ingest'
import ListInput from '~/ui/ListInput.vue'
import { mistakesOf } from '~/ui/code/mistakes'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import { leftOutWords } from '~/wording/files'
import { sentenceOf } from '~/wording/problems'

/**
 * A file that a provider or another site made: shown as the tunnel it would be, then added; its private key
 * goes to be sealed.
 */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ made: [id: string] }>()
const plan = usePlan()
const text = ref('')
const name = ref('Provider')
const deviceId = computed(() => plan.draft?.devices.find((d) => d.kind === 'gateway')?.id ?? '')
const read = computed(() =>
  text.value.trim() === '' || !plan.draft
    ? null
    : readWireguardConf(plan.draft, deviceId.value, name.value.trim() || 'Tunnel', text.value),
)
const tunnel = computed(() => (read.value?.ok ? read.value.value.tunnel : null))
const refusedBy = shallowRef<readonly Problem[]>([])
const problems = computed((): readonly Problem[] =>
  read.value && !read.value.ok ? read.value.problems : refusedBy.value,
)
watch(text, () => (refusedBy.value = []))

async function add(): Promise<void> {
  const found = read.value?.ok ? read.value.value : null
  if (!found) return
  plan.edit(
    `tunnel ${found.tunnel.name} read from a file`,
    '',
    (draft) => void draft.tunnels.push(structuredClone(found.tunnel) as never),
  )
  await plan.flush()
  if (found.privateKey !== null) {
    const answer = await api<{ publicKey: string }>('POST', `sites/${plan.slug}/keys/take`, {
      owner: found.tunnel.id,
      privateKey: found.privateKey,
    })
    refusedBy.value = answer.ok ? [] : answer.refusal.problems
    if (!answer.ok) {
      // Without its key it would be half a tunnel.
      plan.edit(
        `tunnel ${found.tunnel.name} taken back`,
        '',
        (draft) => void (draft.tunnels = draft.tunnels.filter((t) => t.id !== found.tunnel.id)),
      )
      await plan.flush()
      return
    }
    plan.edit(`${found.tunnel.name}: its key`, '', (draft) => {
      for (const tunnel of draft.tunnels)
        if (tunnel.id === found.tunnel.id) tunnel.publicKey = answer.value.publicKey
    })
    await plan.flush()
  }
  text.value = ''
  open.value = false
  emit('made', found.tunnel.id)
}
watch(open, (now) => {
  if (!now) text.value = ''
})
</script>

<template>
  <AppDialog v-model="open" :width="720" title="Import a WireGuard file">
    <p class="soft">
      One that a provider or another site made for this gateway. Its private key is sealed on the server as it
      is added, and shown to nobody unasked.
    </p>
    <VTextField label="Name of the tunnel" v-model="name" maxlength="120" />
    <ListInput v-model="text" placeholder="[Interface]" :mistakes="mistakesOf(problems)" />
    <div v-if="problems.length > 0" role="alert">
      <p v-for="(p, i) in problems" :key="i" class="wrong-words">{{ sentenceOf(p) }}</p>
    </div>
    <template v-if="tunnel && read?.ok">
      <VTable class="ruled" aria-label="What it says">
        <thead>
          <tr>
            <th>Far end</th>
            <th>Is dialled at</th>
            <th>Has these addresses</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in tunnel.peers" :key="p.id">
            <td>{{ p.name }}, {{ p.kind }}</td>
            <td class="mono">{{ p.endpoint ?? 'dials us' }}</td>
            <td class="mono">{{ p.allowed.join(', ') || 'none' }}</td>
          </tr>
          <tr v-if="tunnel.peers.length === 0">
            <td colspan="3" class="soft">Nobody: there is no [Peer] in it.</td>
          </tr>
        </tbody>
      </VTable>
      <p class="small">
        This gateway is <span class="mono">{{ tunnel.address }}</span> in it, MTU
        <span class="mono">{{ tunnel.mtu }}</span>.
      </p>
      <ul v-if="read.value.leftOut.length > 0" class="small" aria-label="Left out">
        <li v-for="l in read.value.leftOut" :key="l.what">{{ leftOutWords(l.what, l.text) }}</li>
      </ul>
    </template>
    <template #actions>
      <VBtn variant="flat" :disabled="!tunnel" @click="add">Add tunnel</VBtn
      ><VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 16px;
}
</style>
