// How a text gets into a comment of a file in which `#` begins one: shell, wg(8), ip(8), nft(8), dnsmasq(8).
// Source: common to these formats: a comment ends with its line, and nothing within it is read.
import { printableLine } from '#core/format'

/** One line of comment, whatever the text holds. */
export const hashComment = (text: string): string => `# ${printableLine(text)}`
