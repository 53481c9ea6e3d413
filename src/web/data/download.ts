/** Hands a text to the browser as a file to save. */
export function download(name: string, text: string, type: string): void {
  // The mark tells spreadsheets that the text is UTF-8.
  const url = URL.createObjectURL(new Blob(['\uFEFF', text], { type: `${type};charset=utf-8` }))
  const link = document.createElement('a')
  link.href = url
  link.download = name.replace(/[\\/:*?"<>|]+/g, '-')
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}
