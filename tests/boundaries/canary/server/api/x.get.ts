import { rows } from '#server/repo/rows'
export default rows
