/** Every address of the application: the list of projects, and one room for each stage of a project. */
import type { RouterConfig } from '@nuxt/schema'

/** A stage's room; it is fetched when it is first entered. */
const ROOMS = {
  board: () => import('~/stages/board/page.vue'),
  parts: () => import('~/stages/parts/page.vue'),
  wiring: () => import('~/stages/wiring/page.vue'),
  power: () => import('~/stages/power/page.vue'),
  boot: () => import('~/stages/boot/page.vue'),
  build: () => import('~/stages/build/page.vue'),
  bringup: () => import('~/stages/bringup/page.vue'),
}

export default {
  routes: () => [
    { path: '/', name: 'projects', component: () => import('~/stages/projects/page.vue') },
    { path: '/shared', name: 'shared', component: () => import('~/stages/projects/SharedPlan.vue') },
    {
      path: '/project/:id',
      component: () => import('~/shell/ProjectShell.vue'),
      children: [
        { path: '', redirect: to => `/project/${String(to.params.id)}/board` },
        ...Object.entries(ROOMS).map(([path, component]) => ({ path, name: path, component })),
      ],
    },
  ],
} satisfies RouterConfig
