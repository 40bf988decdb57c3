/** What the person is looking at, and how they like it shown. Nothing here belongs to the plan. */
import { useMediaQuery, useStorage, type RemovableRef } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Finding, Subject } from '~~/core/findings/types'
import type { Worksheet } from '~~/core/vocabulary/worksheets'
import type { Report } from '~~/core/evaluate'
import { useSlots } from '~/database/slots'

export interface Notice {
  text: string
  tone: 'plain' | 'stop'
  action?: { label: string, run: () => void }
}

/** A setting of this browser; it lasts as long as the tab where the browser keeps nothing. */
function useSetting<T extends string | boolean>(key: string, usual: T): RemovableRef<T> {
  return useStorage<T>(key, usual, useSlots(),
    { onError: error => console.error(`The setting ${key} was not kept:`, error) })
}

/** There is room beside the stage. */
const isWide = (): boolean => typeof matchMedia !== 'function' || matchMedia('(min-width: 1101px)').matches

/** Currencies that prices can be shown in, by ISO 4217. */
export const CURRENCIES = ['EUR', 'USD', 'GBP', 'CHF', 'JPY', 'SEK', 'PLN', 'CAD', 'AUD', 'INR'] as const

export const useViewStore = defineStore('view', () => {
  /** Light or dark as the machine has it, until the person chooses. */
  const theme = useSetting<'system' | 'light' | 'dark'>('voltaris.theme', 'system')
  // As it was kept before there was a third choice.
  if (theme.value === 'system' && useSlots().getItem('voltaris.dark') === 'true') theme.value = 'dark'
  const systemDark = useMediaQuery('(prefers-color-scheme: dark)')
  const dark = computed(() => theme.value === 'system' ? systemDark.value : theme.value === 'dark')
  const turnTheme = () => {
    useSlots().removeItem('voltaris.dark')
    theme.value = dark.value ? 'light' : 'dark'
  }
  const temperatureUnit = useSetting<'C' | 'F'>('voltaris.temperature', 'C')
  const lengthUnit = useSetting<'metric' | 'inch'>('voltaris.length', 'metric')
  const gaugeUnit = useSetting<'awg' | 'mm2'>('voltaris.gauge', 'awg')
  /** Prices are made up; the currency is the maker's choice, and nothing is converted. */
  const currency = useSetting<'' | (typeof CURRENCIES)[number]>('voltaris.currency', '')
  const fromBelow = useSetting<boolean>('voltaris.from-below', false)
  const turned = useSetting<boolean>('voltaris.turned', false)
  const large = useSetting<'position' | 'line'>('voltaris.large-number', 'position')
  /** What is beside the stage. */
  const drawer = ref<'findings' | 'logbook' | 'help' | null>(isWide() ? 'findings' : null)
  const allStages = ref(false)
  const groupBy = useSetting<'cause' | 'subject'>('voltaris.group-findings', 'cause')
  const keysOpen = ref(false)
  const settingsOpen = ref(false)
  const shareOpen = ref(false)
  /** Step of the tour; null while nobody takes it. */
  const tour = ref<number | null>(null)
  const historyOpen = ref(false)
  /** A newer version of the application: waiting to be taken, or taken by another tab. */
  const update = shallowRef<{ taken: boolean, take: () => void } | null>(null)
  const worksheet = shallowRef<Worksheet | null>(null)

  const partId = ref<string | null>(null)
  const terminal = ref<string | null>(null)
  const position = ref<number | null>(null)
  /** Node of the power tree, and whether something is about to be put in before it. */
  const node = ref<string | null>(null)
  const inserting = ref(false)
  const findingId = ref<string | null>(null)
  const marked = shallowRef<Subject[]>([])
  const ghost = shallowRef<{ label: string, report: Report } | null>(null)
  const notice = shallowRef<Notice | null>(null)

  const markedPositions = computed(() => new Set(marked.value.flatMap(subject => subject.position ?? [])))
  const markedParts = computed(() => new Set(marked.value.flatMap(subject => subject.partId ?? [])))

  function choosePart(id: string | null): void {
    partId.value = id
    terminal.value = null
    position.value = null
    clearFinding()
  }

  function chooseNode(id: string | null, insert = false): void {
    node.value = id
    inserting.value = insert
    clearFinding()
  }

  function choosePosition(number: number | null, owner: string | null = null): void {
    position.value = number
    if (owner) partId.value = owner
    clearFinding()
  }

  /** A chosen finding shows what it is about wherever that is drawn; chosen again it lets go. */
  function chooseFinding(finding: Finding): void {
    if (findingId.value === finding.id) return clearFinding()
    findingId.value = finding.id
    marked.value = finding.subjects
    const part = finding.subjects.find(subject => subject.partId)?.partId
    if (part) partId.value = part
    const at = finding.subjects.find(subject => subject.node)?.node
    if (at) node.value = at.replace(/@wire$/, '')
  }

  function clearFinding(): void {
    findingId.value = null
    marked.value = []
  }

  /** Marks subjects on the header and in the lists without a finding: those of a conflict. */
  function mark(subjects: Subject[]): void {
    findingId.value = null
    marked.value = subjects
  }

  function say(text: string, more: Partial<Notice> = {}): void {
    notice.value = { text, tone: 'plain', ...more }
  }

  function reset(): void {
    choosePart(null)
    node.value = null
    ghost.value = null
    notice.value = null
    worksheet.value = null
    if (drawer.value !== 'findings') drawer.value = isWide() ? 'findings' : null
    historyOpen.value = false
    shareOpen.value = false
  }

  /** Shows what is asked for beside the stage, or the findings (on narrow screens nothing) when it is there already. */
  function toggleDrawer(which: 'findings' | 'logbook' | 'help'): void {
    drawer.value = drawer.value === which ? which !== 'findings' && isWide() ? 'findings' : null : which
  }

  const print = () => globalThis.print()

  return {
    theme, dark, turnTheme, temperatureUnit, lengthUnit, gaugeUnit, currency, fromBelow, turned, large,
    drawer, toggleDrawer, allStages, groupBy, keysOpen, settingsOpen, shareOpen, tour, historyOpen, update, worksheet,
    print,
    partId, terminal, position, node, inserting, findingId, marked, markedPositions, markedParts, ghost, notice,
    choosePart, chooseNode, choosePosition, chooseFinding, clearFinding, mark, say, reset,
  }
})
