/** What the board is told beside its boot file, its small files as they stand, and their edits. */
import { createSharedComposable } from '@vueuse/core'
import { hostFilesOf } from '~~/core/host/bundle'
import type { Host } from '~~/core/plan/host-shape'

export const useHost = createSharedComposable(() => {
  const project = useProjectStore()
  const host = computed(() => project.plan!.host)
  const made = computed(() => hostFilesOf(project.facts!, project.report!.expected))

  function set(fields: Partial<Host>, label: string, join?: string): void {
    project.edit({ edit: 'set-host', host: fields }, label, join)
  }

  /** Says what lies on the board at a path; `undefined` takes it away. */
  function lies(path: string, file: Host['files'][string] | undefined, label: string, join?: string): void {
    const { [path]: _, ...rest } = host.value.files
    set({ files: file ? { ...rest, [path]: file } : rest }, label, join)
  }

  return { host, made, set, lies }
})
