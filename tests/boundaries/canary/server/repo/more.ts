import { service } from '#server/services/service'
export const more = service
