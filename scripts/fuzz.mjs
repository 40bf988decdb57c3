#!/usr/bin/env node
// `npm run fuzz [COUNT]`: a hundred thousand twisted inputs for every reader, from a seed of the day's own; prints how
// each one that fell can be seen again. A tenth of it, the same each time, is part of `npm test`.
import { join } from 'node:path'
import { writeCatalogueIndex } from './catalogue-index.mjs'
import { ensurePackages, root, run } from './setup.mjs'

ensurePackages()
writeCatalogueIndex()
run(join(root, 'node_modules', '.bin', 'tsx'), ['test/fuzz-run.ts', ...process.argv.slice(2)])
