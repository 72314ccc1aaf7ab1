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
  const leave: (() => void)[] = [watchStream(stream), whenMissed(close)]
  const leaveAll = () => leave.forEach((one) => one())
  try {
    leave.push(
      await hear((news) => {
        if (news.site === slug || news.site === '') void stream.push(JSON.stringify({ ...news, site: slug }))
      }),
    )
    leave.push(await hearEnded((ended) => void (ended.includes(sessionId) && close())))
  } catch (error) {
    leaveAll()
    throw error
  }
  const pulse = setInterval(() => void stream.push({ event: 'pulse', data: '' }), 25_000)
  stream.onClosed(() => {
    clearInterval(pulse)
    leaveAll()
  })
  void stream.push({ event: 'pulse', data: '' })
  return stream.send()
})
