/** Hands a text to the person as a file. @example save('orders.csv', 'text/csv', csv) */
export function save(name: string, type: string, content: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([content], { type }))
  link.download = name.replace(/[^\p{L}\p{N}._ -]+/gu, '-')
  link.click()
  URL.revokeObjectURL(link.href)
}
