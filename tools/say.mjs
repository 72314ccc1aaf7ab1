/** Ends the command with one clear line. */
export class Stop extends Error {
  /** `told`: the program that failed has said so itself, in one line. */
  constructor(line, code = 1, told = false) {
    super(line)
    this.code = code
    this.told = told
  }
}

export const say = (line) => process.stdout.write(`${line}\n`)
