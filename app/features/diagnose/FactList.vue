<script setup lang="ts">
import { lookId, plannedPort, type Fact, type Look } from '#core/diagnose'
import type { Plan } from '#core/schema'
import { readFlow } from '#core/reachability'
import { answersTo, BOTH_ADDRESSES, factWords, howToLook, LOOKS, type LookKind } from '~/wording/looks'
import { reasonOf } from '~/wording/problems'
import { namesIn } from '~/wording/names'

/** What else was seen on site: facts, and a row to add one. */
const props = defineProps<{ plan: Plan; facts: readonly Fact[] }>()
const emit = defineEmits<{ change: [facts: readonly Fact[]] }>()

const kind = ref<LookKind>('address')
const thing = ref('')
const other = ref('')
const text = ref('')
const got = ref('')
const names = computed(() => namesIn(props.plan))
const byName = (list: { value: string; text: string }[]) =>
  [...list].sort((a, b) => a.text.localeCompare(b.text, 'en', { numeric: true }))
/** What there is to look at, of the kind that was chosen. */
const things = computed(() => {
  const { devices, links, uplinks, tunnels } = props.plan
  switch (kind.value) {
    case 'address':
    case 'mac':
      return byName(
        devices
          .filter((d) => d.homeNetworkId !== null && d.kind !== 'gateway')
          .map((d) => ({ value: d.id, text: d.name })),
      )
    case 'link':
      return byName(
        links
          .filter((l) => l.medium.kind === 'copper' || l.medium.kind === 'fibre')
          .map((l) => ({ value: l.id, text: names.value.thing(l.id) })),
      )
    case 'uplink':
      return uplinks.map((u) => ({ value: u.id, text: u.name }))
    case 'handshake':
      return tunnels.flatMap((t) => t.peers.map((p) => ({ value: p.id, text: p.name })))
    case 'flow':
      return []
  }
})
const switches = computed(() =>
  byName(
    props.plan.devices
      .filter((d) => d.kind === 'switch' && d.id !== thing.value)
      .map((d) => ({ value: d.id, text: d.name })),
  ),
)
watch(kind, () => ([thing.value, other.value, got.value] = ['', '', '']))
watch(thing, () => {
  got.value = ''
  if (kind.value === 'mac')
    other.value =
      switches.value.find((s) => plannedPort(props.plan, thing.value, s.value))?.value ??
      switches.value[0]?.value ??
      ''
})
const read = computed(() => (text.value.trim() === '' ? null : readFlow(text.value)))
const wrong = computed(() => {
  if (kind.value !== 'flow' || !read.value) return ''
  if (!read.value.ok) return read.value.problems.map(reasonOf).join(' ')
  return read.value.value.from === null || read.value.value.to === null ? BOTH_ADDRESSES : ''
})
const flowLook = (): Look | null =>
  read.value?.ok && wrong.value === ''
    ? { kind: 'flow', text: text.value.trim().replaceAll(/\s+/g, ' ') }
    : null
/** What is looked at where one thing is chosen. */
const lookAt: Readonly<Record<Exclude<Look['kind'], 'flow'>, (id: string) => Look | null>> = {
  address: (deviceId) => ({ kind: 'address', deviceId }),
  mac: (deviceId) => (other.value === '' ? null : { kind: 'mac', deviceId, on: other.value }),
  link: (linkId) => ({ kind: 'link', linkId }),
  uplink: (uplinkId) => ({ kind: 'uplink', uplinkId }),
  handshake: (peerId) => ({ kind: 'handshake', peerId }),
}
const look = computed((): Look | null => {
  if (kind.value === 'flow') return flowLook()
  return thing.value === '' ? null : lookAt[kind.value](thing.value)
})
const answers = computed(() => (look.value ? answersTo(look.value, props.plan) : []))
function add(): void {
  if (!look.value || got.value === '') return
  const fact: Fact = { ...look.value, got: got.value }
  // Of one thing the newest word counts.
  emit('change', [...props.facts.filter((f) => lookId(f) !== lookId(fact)), fact])
  ;[thing.value, text.value, got.value] = ['', '', '']
}
const remove = (fact: Fact) =>
  emit(
    'change',
    props.facts.filter((f) => f !== fact),
  )
</script>

<template>
  <div class="facts">
    <ul v-if="facts.length > 0" aria-label="Facts">
      <li v-for="fact in facts" :key="lookId(fact)">
        {{ factWords(fact, plan) }}
        <VBtn variant="text" :aria-label="`Remove: ${factWords(fact, plan)}`" @click="remove(fact)"
          >Remove</VBtn
        >
      </li>
    </ul>
    <form @submit.prevent="add">
      <VSelect
        v-model="kind"
        label="Seen"
        :items="Object.entries(LOOKS).map(([value, title]) => ({ value, title }))"
      />
      <VTextField
        v-if="kind === 'flow'"
        v-model="text"
        class="mono"
        label="Flow"
        placeholder="10.61.1.4 to 10.61.2.10 tcp 22"
        maxlength="80"
      />
      <VAutocomplete v-else v-model="thing" label="Of" :items="things" item-title="text" />
      <VSelect v-if="kind === 'mac'" label="On" v-model="other" :items="switches" item-title="text" />
      <VSelect v-model="got" label="Was" :disabled="!look" :items="answers" item-title="text" />
      <VBtn type="submit" :disabled="!look || got === ''">Add</VBtn>
      <p v-if="wrong !== ''" class="wrong-words small">{{ wrong }}</p>
      <p v-else-if="look" class="small soft">{{ howToLook(look) }}</p>
    </form>
  </div>
</template>

<style scoped>
form > .v-input {
  flex: 1 1 180px;
  max-width: 340px;
}
ul {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
}
li {
  padding: 3px 0;
  border-bottom: 1px solid var(--hair);
}
form {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
form p {
  flex-basis: 100%;
  margin: 0;
}
</style>
