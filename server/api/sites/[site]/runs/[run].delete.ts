import { route, slugOf } from '#server/platform/route'
import { stopRun } from '#server/services/runs'

export default route((event) => stopRun(slugOf(event), Number(getRouterParam(event, 'run'))))
