import { ProjectDatabase } from '~/database/projects'

let database: ProjectDatabase | null = null

/** The one database of this browser. */
export function useDatabase(): ProjectDatabase {
  return database ??= new ProjectDatabase()
}
