/** The long run of the fuzzing: `npm run fuzz`. */
import { fuzz } from './fuzz'

const count = Number(process.argv[2] ?? 100_000)
const seed = Number(process.env.VOLTARIS_SEED ?? Math.floor(Math.random() * 2 ** 24))
const { fallen, longestMs, count: done } = fuzz(count, seed)
for (const { reader, seed: at, what } of fallen.slice(0, 50)) console.log(`${reader}, seed ${at}: ${what}`)
const mebibytes = Math.round(process.memoryUsage().rss / 1024 / 1024)
console.log(
  `${done} inputs from seed ${seed}: ${fallen.length} fell, the longest took ${Math.round(longestMs)} ms, ${mebibytes} `
  + 'MiB in the end',
)
process.exitCode = fallen.length ? 1 : 0
