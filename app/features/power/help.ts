import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'power',
  lines: [
    'Each bar is a budget: hatched is reserved by class, solid is drawn, the dashed line is where headroom begins.',
    'Reserved: what the class stands for at the source. Draw: typical, with what is passed on.',
    'Arrives: volts at the end of the run, from wire, length and temperature.',
    'Rows in trouble name what does not fit; nobody in the first column means that no power comes.',
  ],
})
