/** A clock for what is in the hand: seconds since it came into sight, while the page is looked at. */
import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'

/** After so long nobody is at it any more: it is not counted. */
const LONGEST_S = 1800

/** `4:07`; a dash where nothing was counted. */
export const minutesAndSeconds = (seconds: number | null): string => seconds === null
  ? '–'
  : `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`

export function useStopwatch() {
  const visibility = useDocumentVisibility()
  const counted = ref(0)
  const isStill = ref(false)
  useIntervalFn(() => {
    if (!isStill.value && visibility.value === 'visible') counted.value++
  }, 1000)
  /** Whole seconds; null where it lay so long that it says nothing. */
  const seconds = computed(() => counted.value > LONGEST_S ? null : counted.value)
  /** From nought, for the next. */
  function begin(): void {
    counted.value = 0
  }
  return { seconds, isStill, begin }
}
