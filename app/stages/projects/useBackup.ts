/** Backups of everything: made, put off, brought back; and what there is to say about the last one. */
import { answered, inWords } from '~/database/failures'
import type { BackupNews } from '~/database/backup'

export function useBackup(list: Pick<ReturnType<typeof useProjects>, 'heads' | 'attempt' | 'refresh'>) {
  const database = useDatabase()
  const view = useViewStore()
  const { backUp, restore } = useTransfer()
  const news = shallowRef<BackupNews | null>(null)
  const busy = ref(false)

  /** Looks how old the last backup is. Throws what the storage throws. */
  async function look(): Promise<void> {
    if (!list.heads.value?.length) return
    const { backupNews } = await import('~/database/backup')
    news.value = await backupNews(database)
  }

  /** Hands out everything, or what has changed since a backup. */
  async function make(since?: string): Promise<void> {
    busy.value = true
    await list.attempt('No backup was made', async () => {
      const count = await backUp(since)
      view.say(`${count} ${count === 1 ? 'project is' : 'projects are'} in the backup. Keep it somewhere else `
        + 'than on this machine.')
      await look()
    })
    busy.value = false
  }

  async function putOff(): Promise<void> {
    news.value = null
    await list.attempt('Not put off',
      () => answered(database.facts.put({ key: 'backup-later', value: new Date().toISOString() })))
  }

  /** Brings backups back; gives why not, or null. */
  async function bringBack(files: readonly File[]): Promise<string | null> {
    busy.value = true
    try {
      view.say(await restore(files))
      return null
    }
    catch (error) {
      return inWords(error)
    }
    finally {
      busy.value = false
      await list.refresh()
    }
  }

  return { news, busy, look, make, putOff, bringBack }
}
