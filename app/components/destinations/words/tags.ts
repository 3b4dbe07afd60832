/** Tags as they are typed: separated by commas, each once. */
export const tagsFrom = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((tag) => tag.trim().slice(0, 200))
      .filter(Boolean),
  ),
]
export const tagsAsText = (tags: readonly string[]): string => tags.join(', ')
