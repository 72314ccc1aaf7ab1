/**
 * Rules of this project that no package has.
 *
 * - `name-length`: a name of one letter is a coordinate, an index of a loop, or the parameter of a callback of
 *   one line.
 * - `function-lines`: ESLint's own limit of lines, but for the callback of `describe`, which is a list of tests,
 *   and for that of `defineStore`, which is the body of a class: the limit holds for each function within.
 */
import { builtinRules } from 'eslint/use-at-your-own-risk'

const COORDINATES = new Set(['x', 'y', 'i', 'j', 'k', '_'])
const isFunction = (node) => /Function/.test(node.type)

function enclosingFunction(node) {
  let at = node.parent
  while (at && !isFunction(at)) at = at.parent
  return at
}

const isCallbackOfOneLine = (node) =>
  node?.type === 'ArrowFunctionExpression' &&
  node.body.type !== 'BlockStatement' &&
  node.loc.start.line === node.loc.end.line

const isLoopIndex = (declarator) => declarator.parent.parent?.type === 'ForStatement'

/** The identifiers that a pattern declares. */
function identifiers(pattern) {
  switch (pattern?.type) {
    case 'Identifier':
      return [pattern]
    case 'ArrayPattern':
      return pattern.elements.flatMap(identifiers)
    case 'ObjectPattern':
      return pattern.properties.flatMap((property) => identifiers(property.value ?? property.argument))
    case 'AssignmentPattern':
      return identifiers(pattern.left)
    case 'RestElement':
      return identifiers(pattern.argument)
    default:
      return []
  }
}

const nameLength = {
  meta: { type: 'suggestion', schema: [], messages: { short: "Say what '{{name}}' is." } },
  create(context) {
    const check = (pattern) => {
      for (const node of identifiers(pattern)) {
        const short = node.name.length === 1 && !COORDINATES.has(node.name)
        if (short && !isCallbackOfOneLine(enclosingFunction(node)))
          context.report({ node, messageId: 'short', data: { name: node.name } })
      }
    }
    const checkParameters = (node) => node.params.forEach(check)
    return {
      FunctionDeclaration: checkParameters,
      FunctionExpression: checkParameters,
      ArrowFunctionExpression: checkParameters,
      VariableDeclarator: (node) => isLoopIndex(node) || check(node.id),
    }
  },
}

/** True of `describe`, `test.describe` and `describe.skipIf(…)`. */
const speaksOfDescribe = (callee) =>
  callee?.name === 'describe' ||
  callee?.property?.name === 'describe' ||
  [callee?.object, callee?.callee].some((inner) => inner && speaksOfDescribe(inner))

const isListOfFunctions = ({ parent }) =>
  parent?.type === 'CallExpression' &&
  (parent.callee.name === 'defineStore' || speaksOfDescribe(parent.callee))

const lines = builtinRules.get('max-lines-per-function')
const functionLines = {
  ...lines,
  create(context) {
    const report = (found) =>
      found.node && isListOfFunctions(found.node) ? undefined : context.report(found)
    return lines.create(Object.create(context, { report: { value: report } }))
  },
}

export default { rules: { 'name-length': nameLength, 'function-lines': functionLines } }
