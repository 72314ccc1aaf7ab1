import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'rules',
  lines: [
    'Rules are met from the top; the first that fits decides, and what none fits falls to the default.',
    'Tried, and for which intents: tests that hit the rule, and what it lets through. A ' +
      'rule for no intent is work for nobody.',
    'A rule in the colour of trouble can never match: others above it take all of it.',
    'Intents say what must pass; whatever none of them names must not. The grid sets them ' +
      'pair by pair; the list has all they say.',
    'Rules that change nothing, or speak of nobody, are in the Lookout: nothing is lost ' +
      'when they go, one by one or together.',
    'Groups: ends under one name, a zone for one; and what happens between two ends that no rule names.',
    'Services and times: ports by name, and hours of the week at which a rule is there or an intent is meant.',
    'As text: one intent a line, and the same comes back. A wrong line is told with its column.',
    'Rules from intents: the least list that does what is meant. From rules: what passes ' +
      'and nobody asked for, as intents.',
  ],
})
