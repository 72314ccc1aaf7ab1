import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'revisions',
  name: 'Revisions',
  stage: null,
  place: 1,
  shortcut: 'v',
  help: [
    'Every saved state of the plan, with who and when, newest first.',
    'Compare any with the one before; restore makes a new revision, nothing is lost.',
  ],
})
