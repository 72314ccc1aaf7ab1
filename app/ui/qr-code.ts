/** A text as a code to scan, as SVG; the library is loaded with the first. */
export async function codeOf(text: string): Promise<string> {
  const { toString } = await import('qrcode')
  return toString(text, { type: 'svg', margin: 2 })
}
