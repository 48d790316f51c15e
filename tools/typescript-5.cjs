/**
 * Loaded before the dependency checker: it reads TypeScript through the JavaScript interface that version 5 was the last to have, so that
 * what it asks for as `typescript` is `typescript-5`. Types are checked by the newer one.
 */
'use strict'
const Module = require('node:module')
const instead = (request) => request.replace(/^typescript(?=$|\/)/, 'typescript-5')
/* oxlint-disable no-underscore-dangle -- Node has no other name for it */
const resolveFilename = Module._resolveFilename
Module._resolveFilename = (request, ...rest) => resolveFilename(instead(request), ...rest)
// imports are resolved in a thread of their own
Module.register(
  `data:text/javascript,${encodeURIComponent(
    `const instead = ${instead}\nexport const resolve = (request, context, next) => next(instead(request), context)`,
  )}`,
)
