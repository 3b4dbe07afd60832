/** The package ships these types but does not name them in its `exports`. */
declare module 'tinykeys' {
  export type KeyBindingMap = Record<string, (event: KeyboardEvent) => void>
  export function createKeybindingsHandler(
    bindings: KeyBindingMap,
    options?: { timeout?: number },
  ): EventListener
}
