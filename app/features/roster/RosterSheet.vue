<script setup lang="ts">
import type { DeviceId } from '#core/schema'
import type { RosterRow } from '#contracts/api'
import DeviceKey from './DeviceKey.vue'
import ReplaceDevice from './ReplaceDevice.vue'
import StrangerRow from './StrangerRow.vue'
import ClaimDevices from './ClaimDevices.vue'
import LabShelf from './LabShelf.vue'
import { useRosterEntries } from './roster-entries'
import { keyWords } from './words'
import StatusFlag from '~/ui/StatusFlag.vue'
import ProgressSteps from '~/ui/ProgressSteps.vue'
import { useTimestamp } from '@vueuse/core'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { eventWords, timeText } from '~/wording/adoption'
import ReadingNotice from '~/ui/ReadingNotice.vue'

const plan = usePlan()
const site = useSite()
const session = useSession()
const nowMs = useTimestamp({ interval: 1000 })
const opened = ref('')
const serial = ref('')
const device = ref('')
const replaced = shallowRef<RosterRow | null>(null)
const keyed = shallowRef<RosterRow | null>(null)
const nameOf = (row: RosterRow | null): string =>
  plan.draft?.devices.find(({ id }) => id === row?.deviceId)?.name ?? ''

const { entries, isFree, deviceFor } = useRosterEntries(nowMs)
const inSync = computed(() => entries.value.filter((e) => e.state === 'in-sync').length)
/** A label that is read on the shelf. */
function chooseBox(number: string, deviceId: DeviceId): void {
  serial.value = number
  if (isFree(deviceId)) device.value = deviceId
}
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Roster</h1>
      <p>
        {{ site.roster ? `${inSync} of ${entries.length} in sync. ` : '' }}
        <span :class="{ off: !site.live }">{{
          site.live ? 'Live.' : 'Not live: the server is silent; what is below may be old.'
        }}</span>
      </p>
    </header>
    <ReadingNotice v-if="!site.roster" words="Reading the roster" />
    <div v-else class="table" role="table" aria-label="Roster">
      <div class="tr head" role="row">
        <span role="columnheader">Device</span><span role="columnheader">Serial</span
        ><span role="columnheader">Steps</span><span role="columnheader">State and what to do</span
        ><span role="columnheader">Last message</span>
      </div>
      <div
        v-for="e in entries"
        :key="e.row.deviceId"
        class="tr"
        :class="{ stuck: e.stuck, sync: e.state === 'in-sync' }"
        role="row"
        :data-device="e.row.deviceId"
      >
        <span role="cell"
          ><b>{{ e.name }}</b> <span class="soft small">{{ e.model }}</span>
          <template v-if="e.saysOther"
            ><br /><span class="small wrong-words">says it is {{ e.saysOther }}</span></template
          ></span
        >
        <span role="cell" class="small"
          ><span class="mono">{{ e.row.serial ?? (e.waiting || 'none') }}</span
          ><template v-if="e.waiting && !e.row.serial"><br />not sent yet</template
          ><template v-if="e.row.key"><br />{{ keyWords(e.row.key) }}</template></span
        >
        <span role="cell" class="steps"><ProgressSteps :state="e.state" :stuck="e.stuck" /></span>
        <span role="cell"
          ><StatusFlag :state="e.flag" :says="e.words.state" /> <b>{{ e.words.state }}</b><template
            v-if="e.words.next"
            ><br /><span class="small">{{ e.words.next }}</span></template
          ></span
        >
        <span role="cell" class="small">
          <VBtn
            v-if="e.last"
            variant="text"
            :aria-expanded="opened === e.row.deviceId"
            @click="opened = opened === e.row.deviceId ? '' : e.row.deviceId"
          >
            {{ eventWords(e.last) }}<span class="sr"> of {{ e.name }}</span>
            <VTooltip
              activator="parent"
              location="bottom"
              :text="opened === e.row.deviceId ? 'Hide its words' : 'All its words'"
              :aria-label="opened === e.row.deviceId ? 'Hide its words' : 'All its words'"
            />
          </VBtn>
          <span v-else class="soft">nothing heard</span>
          <span v-if="e.last" class="soft">{{ timeText(e.last.atMs, nowMs) }}</span>
          <template v-if="session.works && e.row.serial"
            ><br /><VBtn v-if="e.state === 'in-sync'" variant="text" @click="replaced = e.row">
              Replace or release<span class="sr"> {{ e.name }}</span>
            </VBtn>
            <VBtn v-else variant="text" @click="site.release(e.row.serial)">
              Release<span class="sr"> {{ e.name }}</span> </VBtn
            ><VBtn variant="text" class="key" @click="keyed = e.row">
              Key<span class="sr"> of {{ e.name }}</span>
            </VBtn></template
          >
        </span>
        <div
          v-if="opened === e.row.deviceId || (!e.last && e.row.past.length > 0)"
          role="cell"
          aria-colspan="5"
          class="words"
        >
          <ol class="small">
            <li v-for="past in e.row.past" :key="past.releasedAtMs">
              <span class="mono">{{ past.serial }}</span> served from
              <span class="mono soft">{{ timeText(past.claimedAtMs, nowMs) }}</span> to
              <span class="mono soft">{{ timeText(past.releasedAtMs, nowMs) }}</span>, released by
              {{ past.releasedBy }}
            </li>
            <li v-for="(event, i) in e.row.events" :key="i">
              <span class="mono soft">{{ timeText(event.atMs, nowMs) }}</span> {{ eventWords(event) }}
            </li>
          </ol>
        </div>
      </div>
    </div>
    <template v-if="(site.roster?.strangers.length ?? 0) > 0">
      <h2 class="gap">Strangers</h2>
      <div class="table" role="list" aria-label="Strangers">
        <StrangerRow
          v-for="stranger in site.roster?.strangers"
          :key="stranger.serial"
          :stranger="stranger"
          :likely="deviceFor(stranger)"
          :is-free="isFree"
          :now-ms="nowMs"
        />
      </div>
    </template>
    <ReplaceDevice v-model="replaced" :name="nameOf(replaced)" />
    <DeviceKey v-model="keyed" :name="nameOf(keyed)" />
    <template v-if="session.works">
      <div class="gap"><ClaimDevices v-model:serial="serial" v-model:device="device" /></div>
      <div class="gap"><LabShelf @serial="chooseBox" /></div>
    </template>
  </section>
</template>

<style scoped>
.gap {
  margin-top: 16px;
}
h2.gap {
  margin-bottom: 6px;
}
.off {
  color: var(--magenta);
  font-weight: 700;
}
.table {
  border: 1px solid var(--line);
  background: var(--panel);
}
.tr {
  display: grid;
  grid-template-columns: minmax(150px, 1.1fr) 100px 112px minmax(150px, 1.3fr) minmax(140px, 1.2fr);
  gap: 2px 12px;
  padding: 4px 10px;
  border-bottom: 1px solid var(--hair);
  align-items: start;
}
.tr:last-child {
  border-bottom: 0;
}
.tr.head {
  font-weight: 700;
  font-size: 13px;
  border-bottom-color: var(--ink);
}
.tr.stuck {
  background: var(--trouble);
}
.key {
  margin-inline-start: 10px;
}
.steps {
  padding-top: 3px;
}
.words {
  grid-column: 1 / -1;
  margin: 4px 0;
  padding: 4px 0 0;
  border-top: 1px solid var(--hair);
}
.words ol {
  margin: 0;
  padding: 0;
  list-style: none;
  columns: 2;
}
@media (max-width: 899px) {
  .tr {
    grid-template-columns: 1fr;
    padding: 10px 12px;
  }
  .tr.head {
    display: none;
  }
  .tr.sync {
    grid-template-columns: 1fr auto;
    align-items: center;
  }
  .tr.sync > :nth-child(2),
  .tr.sync > .steps,
  .tr.sync > :nth-child(5) {
    display: none;
  }
  .words ol {
    columns: 1;
  }
}
</style>
