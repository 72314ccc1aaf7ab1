import { z } from 'zod'

// A page's content security policy forbids making code from text, which Zod would otherwise try. To be imported before
// any schema is made.
if ('document' in globalThis) z.config({ jitless: true })

export { z }
