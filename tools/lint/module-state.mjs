/**
 * Refuses state at the top of a module: a binding that can be given another value, a collection that can be filled, a memory of answers, and
 * whatever writes to something that stands there. Caches and scratch arrays belong to an evaluator, which is handed openly.
 */
const COLLECTIONS = /^(?:Weak)?(?:Map|Set)$|^(?:Big)?(?:Int|Uint|Float)\w*Array$|^Array$/
const READONLY = /^(?:ReadonlyMap|ReadonlySet|ReadonlyArray)$/
const MEMOS = new Set(['weakMemo'])
const WRITES = /^(?:set|add|delete|clear|push|unshift|pop|shift|splice|sort|reverse|fill|copyWithin)$/

const isReadonly = ({ typeAnnotation }) => {
  const type = typeAnnotation?.typeAnnotation
  if (type?.type === 'TSTypeOperator') return type.operator === 'readonly'
  return type?.type === 'TSTypeReference' && READONLY.test(type.typeName.name ?? '')
}
const rootOf = (node) => {
  let at = node
  while (at.type === 'MemberExpression' || at.type === 'TSNonNullExpression') at = at.object ?? at.expression
  return at.type === 'Identifier' ? at : undefined
}

const rule = {
  meta: {
    type: 'problem',
    schema: [],
    messages: {
      binding: 'A module keeps no state: {{name}} can be given another value.',
      collection: 'A module keeps no state: {{name}} can be filled. Give it a readonly type, or an owner.',
      memo: 'A module keeps no state: {{name}} remembers answers. An evaluator owns what is kept.',
      written: 'A module keeps no state: {{name}} stands at its top and is written to.',
    },
  },
  create(context) {
    const { sourceCode } = context
    function checkTop(declaration) {
      for (const { id, init } of declaration.declarations) {
        const data = { name: sourceCode.getText(id).split(':')[0] }
        if (declaration.kind !== 'const') context.report({ node: id, messageId: 'binding', data })
        else if (init?.type === 'NewExpression' && COLLECTIONS.test(init.callee.name ?? '')) {
          // filled as it is made and readonly from then on, it is data
          if (init.callee.name.startsWith('Weak') || init.arguments.length === 0 || !isReadonly(id))
            context.report({ node: id, messageId: 'collection', data })
        } else if (init?.type === 'ArrayExpression' && init.elements.length === 0 && !isReadonly(id))
          context.report({ node: id, messageId: 'collection', data })
        else if (init?.type === 'CallExpression' && MEMOS.has(init.callee.name))
          context.report({ node: id, messageId: 'memo', data })
      }
    }
    /** Whether a name is a constant at the top of this module. */
    function isTop(identifier) {
      for (let scope = sourceCode.getScope(identifier); scope; scope = scope.upper) {
        const found = scope.set.get(identifier.name)
        if (found) return scope.type === 'module' && found.defs.some((d) => d.type === 'Variable')
      }
      return false
    }
    function checkWrite(target) {
      const root = target.type === 'MemberExpression' ? rootOf(target) : undefined
      if (root && isTop(root)) context.report({ node: target, messageId: 'written', data: { name: root.name } })
    }
    return {
      Program(program) {
        for (const statement of program.body) {
          const declaration = statement.type === 'ExportNamedDeclaration' ? statement.declaration : statement
          if (declaration?.type === 'VariableDeclaration' && !declaration.declare) checkTop(declaration)
        }
      },
      AssignmentExpression: ({ left }) => checkWrite(left),
      UpdateExpression: ({ argument }) => checkWrite(argument),
      CallExpression({ callee }) {
        if (callee.type === 'MemberExpression' && WRITES.test(callee.property.name ?? '')) checkWrite(callee)
      },
    }
  },
}

export default { meta: { name: 'ivent' }, rules: { 'no-module-state': rule } }
