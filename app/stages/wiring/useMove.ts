import type { PlaceOption } from '~~/core/placement/options'
import { placeOptions } from '~~/core/placement/options'

const moving = ref<string | null>(null)

/** Moving a terminal by hand: choose it, then choose where it goes. What is moved by hand is fixed. */
export function useMove() {
  const project = useProjectStore()
  const terminal = computed(() => moving.value ? project.facts?.byKey.get(moving.value) ?? null : null)
  const options = computed<PlaceOption[]>(() => terminal.value ? placeOptions(terminal.value, project.facts!) : [])
  const byPosition = computed(() => new Map(options.value.flatMap(option => option.to.position !== undefined
    ? [[option.to.position, option]]
    : [])))

  function start(key: string) {
    moving.value = moving.value === key ? null : key
  }

  function moveTo(key: string, option: PlaceOption) {
    project.edit({ edit: 'assign', terminal: key, to: { ...option.to, fixed: true } }, `Move ${key} to ${option.label}`)
    moving.value = null
  }

  function stop() {
    moving.value = null
  }

  return { moving, terminal, options, byPosition, start, moveTo, stop }
}
