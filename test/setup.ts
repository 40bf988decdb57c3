/**
 * Generated inputs are the same in every run of `npm test`, so that a run that was green stays green; `npm run
 * test:draw` draws new ones and prints the seed, for the cases that nobody has seen yet.
 */
import fc from 'fast-check'
import { draws } from './random'

fc.configureGlobal({ seed: Number(process.env.VOLTARIS_SEED ?? 20261126), numRuns: draws(100) })
