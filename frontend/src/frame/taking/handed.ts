/** Files that were dropped on another page, to be taken in on this one. */
let handed: File[] = []

export function hand(files: File[]) {
  handed = files
}

export function takeHanded(): File[] {
  const files = handed
  handed = []
  return files
}

/** Whether a file is a client's own list, and no package of books. */
export function isListing(file: File): boolean {
  return /\.(csv|txt|tsv|tab|xlsx|xlsm|xls|ods)$/i.test(file.name)
}
