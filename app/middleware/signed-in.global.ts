import { FOR_ANYBODY, useSession } from '~/stores/session'

export default defineNuxtRouteMiddleware(async (to) => {
  const session = useSession()
  session.here = String(to.params['site'] ?? '')
  if (FOR_ANYBODY.includes(to.path)) return
  await session.load()
  if (!session.me && to.path !== '/sign-in')
    return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { to: to.fullPath } })
  if (session.me && to.path === '/sign-in') return navigateTo('/')
  if (session.me?.needsFactor && !session.me.hasFactor && to.path !== '/account')
    return navigateTo('/account')
})
