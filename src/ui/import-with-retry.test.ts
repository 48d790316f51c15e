import { importWithRetry, isMissingPart } from './import-with-retry'

test('a part that does not come over is asked for until it does', async () => {
  let asked = 0
  const part = await importWithRetry(() => {
    asked++
    return asked < 3
      ? Promise.reject(Object.assign(new Error('no'), { name: 'ChunkLoadError' }))
      : Promise.resolve('it')
  }, 1)
  expect([part, asked]).toEqual(['it', 3])
})

test('an error of the part itself is thrown at once', async () => {
  let asked = 0
  const load = () => {
    asked++
    return Promise.reject(new Error('x is not defined'))
  }
  await expect(importWithRetry(load, 1)).rejects.toThrow('x is not defined')
  expect(asked).toBe(1)
})

test.each([
  ['ChunkLoadError', 'Loading chunk 12 failed.', true],
  ['TypeError', 'Failed to fetch', true],
  ['TypeError', 'network error', true],
  ['TypeError', 'NetworkError when attempting to fetch resource.', true],
  ['TypeError', 'Load failed', true],
  // what React says where the stream of a page is cut
  ['Error', 'Connection closed.', true],
  ['TypeError', "Cannot read properties of undefined (reading 'x')", false],
])('%s: %s is a part that did not come over: %s', (name, message, missing) => {
  expect(isMissingPart(Object.assign(new Error(message), { name }))).toBe(missing)
})
