interface Closable {
  close(): Promise<void>
}

const open = new Set<Closable>()

/** Remembers a stream until it is left, so that a stopping server can close it. */
export function watchStream(stream: Closable): () => void {
  open.add(stream)
  return () => open.delete(stream)
}

export async function closeStreams(): Promise<void> {
  await Promise.allSettled([...open].map((stream) => stream.close()))
}
