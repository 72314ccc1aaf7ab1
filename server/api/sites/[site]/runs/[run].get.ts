import { route, slugOf } from '#server/platform/route'
import { runOf } from '#server/services/runs'

export default route((event) => runOf(slugOf(event), Number(getRouterParam(event, 'run'))))
