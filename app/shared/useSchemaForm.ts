import { onScopeDispose, shallowRef, watch } from 'vue'
import type { Problem } from '~~/core/documents/failure'

/** What a whole value breaks of its schema. */
export type SchemaCheck<T> = (value: T) => readonly Problem[]

/** Typing rests this long before it is held against the schema. */
const REST_MS = 250

/**
 * A form held against the schema of what it makes, while it is filled in: what is wrong can be said at its field. The
 * schema is fetched with the first change, since it brings its library with it. `failed` is told when it does not come;
 * nothing is refused then but at the door that everything goes through.
 */
export function useSchemaForm<T>(value: () => T, load: () => Promise<SchemaCheck<T>>, failed: (error: Error) => void) {
  const problems = shallowRef<readonly Problem[]>([])
  let check: SchemaCheck<T> | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let hasFailed = false

  async function look(): Promise<void> {
    try {
      check ??= await load()
      problems.value = check(value())
    }
    catch (error) {
      if (!hasFailed) failed(error as Error)
      hasFailed = true
    }
  }

  watch(value, () => {
    clearTimeout(timer)
    timer = setTimeout(() => void look(), REST_MS)
  }, { deep: true })
  onScopeDispose(() => clearTimeout(timer))

  /** What is wrong at a place of the value, in words: places that match, the inner ones too. */
  const at = (place: RegExp): string[] =>
    [...new Set(problems.value.filter(({ path }) => place.test(path)).map(({ message }) => message))]
  return { problems, at, look }
}
