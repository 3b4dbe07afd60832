import type { Person } from '../show'

/** The person whose name stands in a text, as in "Ines, on its page"; the longest name that does. */
export function personNamed(people: readonly Person[], text: string): Person | undefined {
  const words = text.toLocaleLowerCase()
  return people
    .filter(({ name }) => {
      const at = words.indexOf(name.toLocaleLowerCase())
      const isLetter = (character: string | undefined): boolean =>
        character !== undefined && /\p{L}/u.test(character)
      return at >= 0 && !isLetter(words[at - 1]) && !isLetter(words[at + name.length])
    })
    .sort((a, b) => b.name.length - a.name.length)[0]
}
