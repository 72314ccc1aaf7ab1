import { z } from 'zod'

// The content security policy forbids making code from text, which Zod would otherwise try.
export default defineNuxtPlugin(() => {
  z.config({ jitless: true })
})
