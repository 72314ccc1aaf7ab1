import { useSession } from '~/stores/session'

export default defineNuxtRouteMiddleware(async (to) => {
  const session = useSession()
  session.here = String(to.params['site'] ?? '')
  // A one-time link is for whoever has it, signed in or not; from single sign-on one comes either way.
  if (to.path === '/join' || to.path === '/single-sign-on') return
  await session.load()
  if (!session.me && to.path !== '/sign-in')
    return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { to: to.fullPath } })
  if (session.me && to.path === '/sign-in') return navigateTo('/')
  if (session.me?.needsFactor && !session.me.hasFactor && to.path !== '/account')
    return navigateTo('/account')
})
