/** What takes its time, off the main thread: one program, whose services are loaded when they are first asked for. */
import { expose, proxy } from 'comlink'

const SERVICES = {
  board: () => import('./services/board'),
  boot: () => import('./services/boot'),
  bringup: () => import('./services/bringup'),
  judge: () => import('./services/judge'),
  placement: () => import('./services/placement'),
}

export type Services = { [Name in keyof typeof SERVICES]: Awaited<ReturnType<typeof SERVICES[Name]>>['service'] }

const front = {
  open: async (name: keyof Services) => proxy((await SERVICES[name]()).service),
}

export type Front = typeof front

expose(front)
