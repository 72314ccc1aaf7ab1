import { route, slugOf } from '#server/platform/route'
import { listRuns } from '#server/services/runs'

export default route((event) => listRuns(slugOf(event)))
