import { route } from '#server/platform/route'

export default route(async (event) => {
  await clearUserSession(event)
  return {}
})
