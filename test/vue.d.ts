/** Components as tests see them; their own types are checked with the application. */
declare module '*.vue' {
  import type { DefineComponent } from 'vue'

  const component: DefineComponent
  export default component
}
