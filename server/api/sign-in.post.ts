import { signInSchema } from '#contracts/api'
import { readChecked, route } from '#server/platform/route'
import { signIn } from '#server/services/sign-in'

export default route(async (event) => {
  const { name, password } = await readChecked(event, signInSchema, 2000)
  const me = await signIn(name, password, getRequestIP(event) ?? 'unknown')
  await setUserSession(event, { user: me })
  return me
})
