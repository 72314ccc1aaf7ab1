import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'files',
  name: 'Device files',
  stage: 'rehearse',
  place: 3,
  shortcut: 'f',
})
