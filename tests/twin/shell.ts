// Programs and scripts as the twin runs them.
import { execFile } from 'node:child_process'
import { promisify } from 'node:util'

export const run = promisify(execFile)

/**
 * Runs a bash with these arguments, which reads no start-up file: its input from here is a socket, and with one of
 * those it reads ~/.bashrc first (bash(1), INVOCATION).
 */
export const bash = (args: readonly string[], options: { readonly maxBuffer?: number } = {}) =>
  run('bash', ['--norc', ...args], options)
