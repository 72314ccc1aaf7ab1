import { hear, hearEnded, whenMissed } from '#server/platform/news'
import { route, slugOf, visitorOf } from '#server/platform/route'
import { watchStream } from '#server/platform/streams'
import { currentPlan } from '#server/services/plans'

/**
 * Live updates as server-sent events: each says which part of the site to read anew.
 * It ends with the session; and where something may have been missed, so that the page opens it and reads anew.
 */
export default route(async (event) => {
  const slug = slugOf(event)
  const { sessionId } = visitorOf(event)
  await currentPlan(slug)
  const stream = createEventStream(event)
  const close = () => void stream.close()
  const deaf = await Promise.all([
    hear((news) => {
      if (news.site === slug || news.site === '') void stream.push(JSON.stringify({ ...news, site: slug }))
    }),
    hearEnded((ended) => {
      if (ended.includes(sessionId)) close()
    }),
  ])
  const leave = [...deaf, watchStream(stream), whenMissed(close)]
  const pulse = setInterval(() => void stream.push({ event: 'pulse', data: '' }), 25_000)
  stream.onClosed(() => {
    clearInterval(pulse)
    for (const one of leave) one()
  })
  void stream.push({ event: 'pulse', data: '' })
  return stream.send()
})
