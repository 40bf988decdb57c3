/** Web Storage, or something like it where the browser does not give it. */

/** The part of Web Storage that is used here. */
export interface Slots {
  getItem(key: string): string | null
  setItem(key: string, value: string): void
  removeItem(key: string): void
  keys(): string[]
}

let slots: Slots | null = null

/** The browser's storage of small things; where it is denied, one that lasts as long as the tab. */
export function useSlots(): Slots {
  return slots ??= browserSlots() ?? memorySlots()
}

function browserSlots(): Slots | null {
  try {
    // Reading the property throws where site data is blocked.
    const storage = globalThis.localStorage
    storage.getItem('voltaris')
    return {
      getItem: key => storage.getItem(key),
      setItem: (key, value) => storage.setItem(key, value),
      removeItem: key => storage.removeItem(key),
      keys: () => Array.from({ length: storage.length }, (_, i) => storage.key(i)).filter(key => key !== null),
    }
  }
  catch {
    return null
  }
}

/** Storage that lasts as long as the tab. */
export function memorySlots(): Slots {
  const held = new Map<string, string>()
  return {
    getItem: key => held.get(key) ?? null, setItem: (key, value) => void held.set(key, value),
    removeItem: key => void held.delete(key),
    keys: () => [...held.keys()],
  }
}
