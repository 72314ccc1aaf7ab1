import { useSession } from '~/stores/session'

export default defineNuxtRouteMiddleware(async (to) => {
  const session = useSession()
  await session.load()
  if (!session.me && to.path !== '/sign-in')
    return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { to: to.fullPath } })
  if (session.me && to.path === '/sign-in') return navigateTo('/')
})
