import { lightFormat } from 'date-fns'
import { count } from './count'

/** What waits to be sent, in one sentence. */
export const waitingWords = (writes: number): string =>
  `${count(writes, 'record')} ${writes === 1 ? 'waits' : 'wait'} for the server; what you write is kept in ` +
  'this browser and sent when the server answers.'

/**
 * That nobody answers, since when, and when something was sent last.
 * @param heardMs when the server was heard last, 0 where not since the page was opened
 * @param sentMs when a record was sent last from this device, 0 where none was
 */
export const silentWords = (heardMs: number, sentMs: number): string =>
  `The server does not answer${heardMs > 0 ? ` since ${clockText(heardMs)}` : ''}: what you see is what this ` +
  `device has kept.${sentMs > 0 ? ` Last record sent: ${clockText(sentMs)}.` : ''}`

const clockText = (ms: number): string =>
  lightFormat(ms, Date.now() - ms < DAY_MS ? 'HH:mm' : 'yyyy-MM-dd HH:mm')
const DAY_MS = 86_400_000

/** The same in a few words, for where there is room for no more: `, no server, 2 to send`. */
export const shortWords = (isSilent: boolean, writes: number): string =>
  `${isSilent ? ', no server' : ''}${writes > 0 ? `, ${writes} to send` : ''}`

export const NOT_KEPT =
  'What you asked for is not kept on this device, and the server does not answer. Field cards, Brief, Loom and ' +
  'Acceptance tests are.'

export const NOT_SAVED_YET =
  'Not saved yet: the server does not answer. Your work is kept in this browser and is sent when it does.'
