import { hear } from '#server/platform/news'
import { route, slugOf } from '#server/platform/route'
import { watchStream } from '#server/platform/streams'
import { currentPlan } from '#server/services/plans'

/** Live updates as server-sent events: each says which part of the site to read anew. */
export default route(async (event) => {
  const slug = slugOf(event)
  await currentPlan(slug)
  const stream = createEventStream(event)
  const leave = watchStream(stream)
  const deaf = await hear((news) => {
    if (news.site === slug || news.site === '') void stream.push(JSON.stringify({ ...news, site: slug }))
  })
  const pulse = setInterval(() => void stream.push({ event: 'pulse', data: '' }), 25_000)
  stream.onClosed(() => {
    clearInterval(pulse)
    deaf()
    leave()
  })
  void stream.push({ event: 'pulse', data: '' })
  return stream.send()
})
