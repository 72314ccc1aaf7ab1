import { layOut } from '~/features/topology/layered'
import type { LayoutAnswer, LayoutRequest } from '~/features/topology/topology-layout'

const say = (answer: LayoutAnswer) => postMessage(answer)

addEventListener('message', ({ data }: MessageEvent<LayoutRequest>) => {
  try {
    say({ number: data.number, layout: layOut(data.graph), reason: '' })
  } catch (error) {
    say({ number: data.number, layout: null, reason: error instanceof Error ? error.message : 'unknown' })
  }
})
