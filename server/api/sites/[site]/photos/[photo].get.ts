import { route, slugOf } from '#server/platform/route'
import { readPhoto } from '#server/services/photos'

export default route(async (event) => {
  const jpeg = await readPhoto(slugOf(event), getRouterParam(event, 'photo') ?? '')
  setResponseHeaders(event, {
    'content-type': 'image/jpeg',
    'content-security-policy': "default-src 'none'",
  })
  return jpeg
})
