import { spawn } from 'node:child_process'
import { fileURLToPath } from 'node:url'

export const ROOT = fileURLToPath(new URL('..', import.meta.url))

/** Runs a program to its end. Resolves to its exit code and, where captured, its output. */
export function run(program, args, { cwd = ROOT, env = {}, quiet = false, stoppable = false } = {}) {
  return new Promise((resolve) => {
    const child = spawn(program, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: quiet ? ['ignore', 'pipe', 'pipe'] : ['ignore', 'inherit', 'inherit'],
    })
    // A signal to us is passed on; the promise then settles when the program has ended.
    if (stoppable)
      for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill('SIGTERM'))
    let output = ''
    child.stdout?.on('data', (part) => (output += part))
    child.stderr?.on('data', (part) => (output += part))
    child.on('error', (error) => resolve({ code: 127, output: error.message }))
    child.on('close', (code, signal) => resolve({ code: code ?? (signal ? 1 : 0), output }))
  })
}

export const node = (script, args, options) => run(process.execPath, [script, ...args], options)
