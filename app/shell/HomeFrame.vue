<script setup lang="ts">
import { useSession } from '~/stores/session'
import { meWords } from '~/wording/roles'

/** What stands outside of any site: the list of sites, people, one's own account. */
const session = useSession()
const role = computed(() => (session.me ? meWords(session.me) : ''))
</script>

<template>
  <div class="home">
    <div class="bar">
      <span class="name">Able Mast</span>
      <nav aria-label="Able Mast">
        <NuxtLink to="/">Sites</NuxtLink>
        <NuxtLink v-if="session.administers" to="/people">People</NuxtLink>
        <NuxtLink v-if="session.administers" to="/webhooks">Webhooks</NuxtLink>
        <NuxtLink v-if="session.administers" to="/audit">Audit</NuxtLink>
        <NuxtLink v-if="session.me?.isOperator" to="/organisations">Organisations</NuxtLink>
        <NuxtLink to="/account">Your account</NuxtLink>
      </nav>
      <span v-if="session.me" class="who">
        <span
          >{{ session.me.name
          }}<template v-if="role !== session.me.name.toLowerCase()">, {{ role }}</template></span
        >
        <span class="soft">{{ session.me.organisation }}</span>
        <VBtn variant="text" @click="session.signOut">Sign out</VBtn>
      </span>
    </div>
    <main class="sheet"><slot /></main>
  </div>
</template>

<style scoped>
.home {
  height: 100vh;
  overflow: auto;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 24px;
  padding: 12px 16px;
  border-bottom: 1px solid var(--ink);
}
.name {
  font-weight: 700;
  font-size: 16px;
}
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
}
nav a {
  white-space: nowrap;
  padding: 2px 0;
  color: var(--ink);
}
nav a.router-link-exact-active {
  font-weight: 700;
  text-decoration: none;
  border-bottom: 3px solid var(--deep);
}
.who {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-inline-start: auto;
}
.sheet {
  max-width: 1180px;
  margin: 0 auto;
}
</style>
