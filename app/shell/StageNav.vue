<script setup lang="ts">
import StatusFlag from '~/ui/StatusFlag.vue'
import type { Stage } from './navigation'

/** The mast: the seven stages from top to bottom. The current one opens its sheets. */
const props = defineProps<{ stages: readonly Stage[]; slug: string; sheet: string }>()
// What it says needs more words than a first page is to carry.
const NextStep = defineAsyncComponent(() => import('./NextStep.vue'))
const current = computed(() => props.stages.find((s) => s.sheets.some((x) => x.key === props.sheet))?.key)
const first = (stage: Stage) => stage.sheets.find((s) => s.key !== null)?.key
</script>

<template>
  <nav class="mast" aria-label="Stages">
    <div class="pole" aria-hidden="true" />
    <ol>
      <li v-for="stage in stages" :key="stage.key" :class="{ current: stage.key === current }">
        <span class="flag"><StatusFlag :state="stage.flag" /></span>
        <span class="collar" aria-hidden="true" />
        <NuxtLink
          class="name"
          :to="`/sites/${slug}/${first(stage)}`"
          :aria-current="stage.key === current ? 'step' : undefined"
          >{{ stage.name }}</NuxtLink
        >
        <span class="line">{{ stage.line }}</span>
        <NextStep v-if="stage.key === current" :stage="stage.key" />
        <ul v-if="stage.key === current && stage.sheets.length > 0">
          <li v-for="s in stage.sheets" :key="s.name">
            <NuxtLink :to="`/sites/${slug}/${s.key}`" :aria-current="s.key === sheet ? 'page' : undefined">{{
              s.name
            }}</NuxtLink>
          </li>
        </ul>
      </li>
    </ol>
    <div class="foot">
      <span class="later" aria-disabled="true">Drills</span>
      <span class="later" aria-disabled="true">Logbook</span>
      <span class="line">not yet part of Able Mast</span>
    </div>
  </nav>
</template>

<style scoped>
.mast {
  position: relative;
  padding: 14px 0 12px;
  height: 100%;
  display: flex;
  flex-direction: column;
  overflow: auto;
}
.pole {
  position: absolute;
  left: 29px;
  top: 14px;
  bottom: 22px;
  width: 4px;
  background: var(--ink);
}
ol,
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
ol > li {
  position: relative;
  padding: 0 8px 12px 56px;
  display: grid;
}
.flag {
  position: absolute;
  left: 2px;
  top: 1px;
  line-height: 0;
}
.collar {
  position: absolute;
  left: 20px;
  top: 6px;
  width: 22px;
  height: 8px;
  background: var(--paper);
  border: 2px solid var(--ink);
}
.current > .collar {
  background: var(--deep);
  border-color: var(--deep);
}
.name {
  font-weight: 700;
  color: var(--ink);
  text-decoration: none;
}
a.name:hover {
  text-decoration: underline;
}
.current > .name {
  color: var(--deep);
}
.line {
  font-size: 12px;
  line-height: 16px;
  color: var(--soft);
}
ul {
  margin: 8px 0 4px -8px;
}
ul a,
ul .later {
  display: block;
  padding: 2px 8px;
  color: var(--ink);
  text-decoration: none;
  border-left: 3px solid transparent;
}
ul a:hover {
  background: var(--shallow);
}
ul a[aria-current] {
  background: var(--shallow);
  border-left-color: var(--deep);
  font-weight: 700;
}
ul .later,
.foot .later {
  color: var(--soft);
  font-style: italic;
}
@media (max-width: 899px) {
  ol > li {
    padding-bottom: 4px;
  }
  .name {
    padding: 8px 0 2px;
  }
  .flag,
  .collar {
    margin-top: 8px;
  }
  ul a {
    padding: 10px 8px;
  }
}
.foot {
  margin-top: auto;
  padding: 12px 8px 0 56px;
  display: grid;
}
</style>
