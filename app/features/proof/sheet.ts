import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'prove',
  name: 'Acceptance tests',
  stage: 'prove',
  place: 1,
  shortcut: 'p',
  help: [
    'Tests follow from the intent. A full pennant passed, a cut one failed, a bare staff was not tried.',
  ],
})
