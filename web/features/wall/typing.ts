/** Is somebody writing into a field? A chosen radio or box takes no letters, so keys go on to the page. */
export const isWriting = (on: Element | null) =>
  on instanceof HTMLTextAreaElement || (on instanceof HTMLInputElement && on.type !== 'radio' && on.type !== 'checkbox')
