import { importWithRetry } from './import-with-retry'

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
