import ts from 'typescript'

// Question: which kinds does each finding have, as its type says?
// Method: the compiler reads the interfaces of values, code by code.

const VALUES = /core\/findings\/\w+\/values\.ts$/
const CODE = /^[A-Z]\d\d$/

/** The words that a type's `kind` may be, over all members of a union. */
function kindsOf(checker: ts.TypeChecker, type: ts.Type, at: ts.Node): string[] {
  const members = (of: ts.Type) => (of.isUnion() ? of.types : [of])
  return members(type).flatMap((member) => {
    const kind = member.getProperty('kind')
    if (!kind) return []
    return members(checker.getTypeOfSymbolAtLocation(kind, at)).flatMap((word) =>
      word.isStringLiteral() ? [word.value] : [],
    )
  })
}

/**
 * `E08 unpowered`, for each code that has kinds.
 * @param core folder of `core`
 */
export function kindsByType(core: string): string[] {
  const { config } = ts.readConfigFile(`${core}/tsconfig.json`, (path) => ts.sys.readFile(path)) as {
    config: unknown
  }
  const { options } = ts.parseJsonConfigFileContent(config, ts.sys, core)
  const program = ts.createProgram([`${core}/findings/finding.ts`], options)
  const checker = program.getTypeChecker()
  const found = new Set<string>()
  for (const file of program.getSourceFiles().filter(({ fileName }) => VALUES.test(fileName)))
    ts.forEachChild(file, (node) => {
      if (!ts.isInterfaceDeclaration(node)) return
      for (const property of checker.getTypeAtLocation(node).getProperties()) {
        if (!CODE.test(property.name)) continue
        const values = checker.getTypeOfSymbolAtLocation(property, node)
        for (const kind of kindsOf(checker, values, node)) found.add(`${property.name} ${kind}`)
      }
    })
  return [...found].sort()
}
