/** Gives the content to the person as a file of that name. */
export function saveFile(name: string, content: Blob) {
  const link = document.createElement('a')
  link.download = name
  link.href = URL.createObjectURL(content)
  link.click()
  URL.revokeObjectURL(link.href)
}
