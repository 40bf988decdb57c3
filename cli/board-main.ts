import { runBoard } from './board'

// Whoever reads may stop reading early: `| head` is no fault.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error
  process.exit()
})
await runBoard(process.argv.slice(2))
