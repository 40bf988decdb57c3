/** Labels of `__symbols__` by the path they name. */
import { childOf, stringsOf, type TreeNode } from '../types'

export function labelsByPath(root: TreeNode): Map<string, string[]> {
  const found = new Map<string, string[]>()
  for (const { name, value } of childOf(root, '__symbols__')?.properties ?? []) {
    const [path = ''] = stringsOf(value)
    const there = found.get(path)
    if (there) there.push(name)
    else found.set(path, [name])
  }
  return found
}
