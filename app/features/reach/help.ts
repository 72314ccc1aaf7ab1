import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'reach',
  lines: [
    'Rows are from, columns are to. Each cell: what is meant, what the plan gives, what was seen.',
    'Outlined pennant: as intended by prediction. Full: seen on site. Cut: against the intent.',
    'Open a cell to walk the path; the deciding entry is named at each hop.',
    'Weather takes things down; the grid follows.',
  ],
})
