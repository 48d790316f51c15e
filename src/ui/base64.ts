/** Bytes in base64, by the browser's own reader. */
export async function base64Of(blob: Blob): Promise<string> {
  const url = await new Promise<string>((resolve, reject) => {
    const reader = new FileReader()
    reader.addEventListener('load', () => resolve(String(reader.result)))
    reader.addEventListener('error', () => reject(reader.error ?? new Error('It could not be read.')))
    reader.readAsDataURL(blob)
  })
  return url.slice(url.indexOf(',') + 1)
}
