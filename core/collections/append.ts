/** Adds items to the end of a list. `push(...items)` hands them over on the stack, which some ten thousand overflow. */
export function append<T>(to: T[], items: readonly T[]): void {
  for (const item of items) to.push(item)
}
