<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { saveFile } from '~/ui/save-file'
import { changesBetween, changesNotIn, type Change } from '#core/edit'
import { usePlan } from '~/stores/plan'
import { changeText } from '~/wording/changes'

/** Two people changed the same site: both versions side by side, and nothing is done until one decides. */
const plan = usePlan()
const refusedAt = ref('')

const sides = computed(() => {
  const conflict = plan.conflict
  if (!conflict || !plan.draft) return null
  const mine = changesNotIn(conflict.base, plan.draft, conflict.theirs.plan)
  const theirs = changesBetween(conflict.base, conflict.theirs.plan)
  const plans = [plan.draft, conflict.theirs.plan, conflict.base]
  const key = (change: Change) => change.path.join('/')
  const clash = (change: Change, others: readonly Change[]) =>
    others.some((o) => key(o).startsWith(key(change)) || key(change).startsWith(key(o)))
  const lines = (list: readonly Change[], others: readonly Change[]) =>
    list.map((change) => ({ text: changeText(change, plans), both: clash(change, others) }))
  return { c: conflict, mine: lines(mine, theirs), theirs: lines(theirs, mine) }
})

function layMine(): void {
  refusedAt.value = plan.layMineOnTheirs()
    ? ''
    : 'Some of your changes are to the same places; they cannot be laid on the other ' +
      'version. Export yours, then discard it here.'
}
async function keepFile(): Promise<void> {
  const { planToText } = await import('#contracts/plan')
  if (plan.draft) saveFile(`${plan.slug}-mine.json`, planToText(plan.draft), 'application/json')
}
</script>

<template>
  <AppDialog
    :model-value="sides !== null"
    :width="900"
    persistent
    title="Two versions of this plan"
    label="Two versions"
    ><template v-if="sides">
      <p>
        {{ sides.c.theirs.author }} saved revision {{ sides.c.theirs.revision }} while you were working on an
        older one. Yours is not saved yet and still here.
      </p>
      <div class="sides">
        <section
          v-for="side in [
            { name: 'Your changes', list: sides.mine },
            {
              name: `Saved by ${sides.c.theirs.author}, revision ${sides.c.theirs.revision}`,
              list: sides.theirs,
            },
          ]"
          :key="side.name"
        >
          <h2>{{ side.name }}</h2>
          <ul>
            <li v-for="line in side.list" :key="line.text" :class="{ both: line.both }">
              {{ line.text }} <b v-if="line.both">changed by both</b>
            </li>
          </ul>
        </section>
      </div>
      <p v-if="refusedAt" class="wrong-words" role="alert">{{ refusedAt }}</p> </template
    ><template #actions>
      <VBtn variant="flat" :disabled="!sides || sides.mine.some((l) => l.both)" @click="layMine">
        Apply my changes to theirs
      </VBtn>
      <VBtn @click="keepFile">Export mine</VBtn>
      <VBtn color="error" @click="plan.keepTheirs">Discard mine</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 18px;
}
ul {
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
  border-top: 1px solid var(--line);
}
li {
  padding: 4px 6px;
  border-bottom: 1px solid var(--hair);
  overflow-wrap: anywhere;
}
li.both {
  background: var(--trouble);
}
@media (max-width: 899px) {
  .sides {
    grid-template-columns: 1fr;
  }
}
</style>
