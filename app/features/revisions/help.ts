import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'revisions',
  lines: [
    'Every saved state of the plan, with who and when, newest first.',
    'Compare any with the one before; restore makes a new revision, nothing is lost.',
  ],
})
