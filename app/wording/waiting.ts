import { count } from './count'

/** What waits to be sent, in one sentence. */
export const waitingWords = (writes: number): string =>
  `${count(writes, 'record')} ${writes === 1 ? 'waits' : 'wait'} for the server; what you write is kept in ` +
  'this browser and sent when the server answers.'

export const NOT_SAVED_YET =
  'Not saved yet: the server does not answer. Your work is kept in this browser and is sent when it does.'
