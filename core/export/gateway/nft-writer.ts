// How a table, a chain and a rule are written for `nft -f`, and how a text gets into a comment.
// Source: nft(8), sections "Tables", "Chains", "Rules" and "Set block".

const INDENT = '  '
const LONGEST_COMMENT = 120

/** Letters that stand for themselves within quotes; `nft` knows no escape of a quote. */
const plain = (text: string): string => text.replaceAll(/[^\w .,:-]/g, ' ')

/** An id as a word of a comment or of a log's prefix. */
export const idWord = (id: string): string => id.replaceAll(/[^\w.-]/g, '_')

/** Names of interfaces or of days as a value: one in quotes, several as a set. */
export const quoted = (names: readonly string[]): string =>
  names.length === 1 ? `"${names[0]}"` : quotedSet(names)

/** The same, and a set also of one. */
export const quotedSet = (names: readonly string[]): string => `{ ${names.map((n) => `"${n}"`).join(', ')} }`

/** Addresses or ports as a value: one as it is, several as a set. */
export const oneOrSet = (values: readonly string[]): string =>
  values.length === 1 ? (values[0] ?? '') : `{ ${values.join(', ')} }`

/** A statement that names a rule for whoever reads the loaded ruleset. */
export const comment = (text: string): string => `comment "${plain(text).slice(0, LONGEST_COMMENT)}"`

/** One rule: its matches and statements in order; what is empty matches everything and is left out. */
export const rule = (...words: readonly string[]): string => words.filter((word) => word !== '').join(' ')

/** What is said of something that leads to no rule. */
export const namesNothing = (id: string): string => `# ${plain(id)}: names nothing that is there`

const indented = (lines: readonly string[]): string[] => lines.map((line) => INDENT + line)

/** A base chain. `type`: what it hooks into, with its policy where it has one. */
export const chain = (name: string, type: string, rules: readonly string[]): string[] => [
  `chain ${name} {`,
  ...indented([type, ...rules]),
  '}',
]

/** A table with its chains. */
export const table = (
  family: 'inet' | 'ip',
  name: string,
  chains: readonly (readonly string[])[],
): string[] => [`table ${family} ${name} {`, ...indented(chains.flat()), '}']
