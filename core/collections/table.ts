/** A table looked up by names that come from outside: it has no `constructor` and no `__proto__` but those in it. */
export const tableOf = <T>(rows: Record<string, T>): Readonly<Record<string, T>> => Object.assign(
  Object.create(null) as Record<string, T>, rows,
)
